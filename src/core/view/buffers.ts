/** Every buffer of plain data, to be handed over instead of copied. O(arrays). */
export function buffersIn(value: unknown): ArrayBuffer[] {
	const found = new Set<ArrayBuffer>();
	const visit = (part: unknown): void => {
		if (ArrayBuffer.isView(part)) found.add(part.buffer as ArrayBuffer);
		else if (part && typeof part === 'object') Object.values(part).forEach(visit);
	};
	visit(value);
	return [...found];
}

/** Plain data with arrays of its own, so that these may be handed over. O(bytes). */
export function copyOf<T>(value: T): T {
	if (ArrayBuffer.isView(value)) return (value as unknown as Float64Array).slice() as T;
	if (Array.isArray(value)) return value.map((part: unknown) => copyOf(part)) as T;
	if (value && typeof value === 'object')
		return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, copyOf(part)])) as T;
	return value;
}
