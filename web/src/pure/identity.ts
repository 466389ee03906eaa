const known = new WeakMap<object, number>();
let count = 0;

/** A number for an object that never changes: the same for the same object, so that a key need not spell all of it out. */
export function idOf(thing: object): number {
  let id = known.get(thing);
  if (id === undefined) {
    count += 1;
    id = count;
    known.set(thing, id);
  }
  return id;
}
