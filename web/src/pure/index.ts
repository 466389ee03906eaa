/** All that works without a screen, in one piece: so it is tested, from outside, in the browser it runs in. */
export * from "./bench";
export * from "./cardText";
export * from "./cardType";
export * from "./clock";
export * from "./counted";
export * from "./family";
export * from "./format";
export * from "./guestLine";
export * from "./heat";
export { beads, contours, far, heaps, hourOf, initials, place, rows, secondsOf, thread } from "./hill";
export * from "./identity";
export * from "./queue";
export * from "./ribbons";
export * from "./stale";
export * from "./store";
export * from "./telling";
export * from "./trend";
export * from "./twice";
