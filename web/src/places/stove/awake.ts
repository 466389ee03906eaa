import { useEffect } from "react";

/** The screen stays awake while this is shown, where the browser allows it. */
export function useAwake(): void {
  // The screen is an outside system; its lock is lost whenever the page is hidden, and asked for again.
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const ask = () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      navigator.wakeLock.request("screen").then(
        (got) => {
          if (gone) got.release();
          else lock = got;
        },
        () => undefined,
      );
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", ask);
      lock?.release();
    };
  }, []);
}
