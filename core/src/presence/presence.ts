// What the compiler cannot know to be there, and the program does: asked for by these, a mistake
// stops at its place with words instead of going on as `undefined`. The innermost loops over
// samples and pixels keep `!`, because a call there is up to 13 times slower
// (docs/architecture.md).

/**
 * The item at an index from 0 to `items.length - 1`; any other is an error of the program:
 * `RangeError`.
 */
export function itemAt<Item>(items: ArrayLike<Item>, index: number): Exclude<Item, undefined> {
  const item = items[index];
  if (item === undefined) throw new RangeError(`Item ${index} of ${items.length} was asked for.`);
  return item as Exclude<Item, undefined>;
}

/** The last item. A list without any is an error of the program: `RangeError`. */
export const lastOf = <Item>(items: ArrayLike<Item>): Exclude<Item, undefined> => itemAt(items, items.length - 1);

/**
 * What a map holds for a key. A key that it does not know is an error of the program: `RangeError`.
 */
export function valueFor<Key, Value>(map: ReadonlyMap<Key, Value>, key: Key): Value {
  const value = map.get(key);
  if (value === undefined) throw new RangeError(`A map of ${map.size} was asked for a key that it does not have.`);
  return value;
}

/** The value itself. `null` or `undefined` here is an error of the program: `RangeError`. */
export function present<Value>(value: Value): NonNullable<Value> {
  if (value === null || value === undefined)
    throw new RangeError(`A value was expected, and there was ${String(value)}.`);
  return value;
}
