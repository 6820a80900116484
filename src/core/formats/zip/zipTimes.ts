/** Signatures and places of what an archive is made of (PKWARE's APPNOTE, 4.3; read from memory). */
const END = 0x06054b50;
const END_BYTES = 22;
const ENTRY = { signature: 0x02014b50, time: 12, name: 28, extra: 30, comment: 32, local: 42, bytes: 46 } as const;
const LOCAL_TIME = 10;
/** 1 January 1980, 0 o'clock: the first that the format knows. */
const FIRST_DATE = 0x0021;

/** Sets the times in a ZIP archive to the first one there is, so that archives of the same files are the same. Writes in place. */
export function withoutTimes(archive: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer> {
	const view = new DataView(archive.buffer, archive.byteOffset, archive.byteLength);
	let end = archive.byteLength - END_BYTES;
	while (end >= 0 && view.getUint32(end, true) !== END) end--;
	if (end < 0) throw new Error('an archive without an end was made');
	const setTime = (at: number) => view.setUint32(at, FIRST_DATE << 16, true);
	let entry = view.getUint32(end + 16, true);
	for (let left = view.getUint16(end + 10, true); left > 0; left--) {
		if (view.getUint32(entry, true) !== ENTRY.signature) throw new Error('an archive without entries was made');
		setTime(entry + ENTRY.time);
		setTime(view.getUint32(entry + ENTRY.local, true) + LOCAL_TIME);
		const after = [ENTRY.name, ENTRY.extra, ENTRY.comment].map((at) => view.getUint16(entry + at, true));
		entry += ENTRY.bytes + after.reduce((a, b) => a + b, 0);
	}
	return archive;
}
