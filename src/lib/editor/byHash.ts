/** What belongs to faces by their hashes. It is never changed: a state holds another one instead. */
export const byHash = <T>(entries: readonly (readonly [string, T])[] = []): ReadonlyMap<string, T> => new Map(entries);
