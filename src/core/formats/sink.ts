/** Takes a file as it is written, piece after piece. A piece is the sink's own from then on. */
export type Sink = (chunk: Uint8Array<ArrayBuffer>) => void;

/** A file as a whole, for small ones and for tests. */
export function collect(write: (sink: Sink) => void): Uint8Array<ArrayBuffer> {
	const chunks: Uint8Array<ArrayBuffer>[] = [];
	write((chunk) => chunks.push(chunk));
	return joined(chunks);
}

/** Pieces one after the other. */
export function joined(chunks: readonly Uint8Array<ArrayBuffer>[]): Uint8Array<ArrayBuffer> {
	const all = new Uint8Array(chunks.reduce((n, c) => n + c.length, 0));
	let at = 0;
	for (const chunk of chunks) {
		all.set(chunk, at);
		at += chunk.length;
	}
	return all;
}
