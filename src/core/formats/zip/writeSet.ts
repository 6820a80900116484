import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { ZygasterError } from '../../errors.ts';
import { quote } from '../csv/writeTable.ts';
import type { Sink } from '../sink.ts';
import { titleOf, type WriterInput } from '../writerInput.ts';
import { Archive } from './archive.ts';

/** A file of a set. */
export interface SetFile {
	/** As it is called on screen, and within the archive. */
	readonly label: string;
	readonly name: string;
	/** Why there is nothing for it, where that is so. */
	readonly missing: string | undefined;
	readonly write: (sink: Sink) => void | Promise<void>;
}

/** What has come of it: how large it is with its SHA-256 (FIPS 180-4), or why it is not there. */
type Outcome = { readonly bytes: number; readonly sum: string } | { readonly reason: string };

const LIST = 'list.csv';
const LINE_END = '\r\n';

/**
 * Files as one ZIP archive, with a list of them all in front of mind: name, size and checksum, or why a file is not there.
 * Files go through piece by piece; one that fails leaves the others alone. Throws a ZygasterError where none could be made.
 */
export async function writeSet(files: readonly SetFile[], { project, issue }: WriterInput, sink: Sink): Promise<void> {
	const archive = new Archive(sink);
	const outcomes: Outcome[] = [];
	for (const { name, missing, write } of files) outcomes.push(await add(archive, name, missing, write));
	if (outcomes.every((o) => 'reason' in o))
		throw new ZygasterError(
			'empty',
			`None of the files of the set could be made.\n${outcomes.map((o) => 'reason' in o && o.reason).join('\n')}`
		);
	const lines = [
		['Project', project.name],
		['Issue', issue ? titleOf(issue) : ''],
		['Author', issue?.author ?? ''],
		['Date', issue?.date ?? ''],
		[],
		['File', 'What', 'Bytes', 'SHA-256', 'Not there because'],
		...files.map(({ name, label }, k) => {
			const outcome = outcomes[k]!;
			return 'reason' in outcome
				? [name, label, '', '', outcome.reason]
				: [name, label, String(outcome.bytes), outcome.sum, ''];
		})
	];
	archive.file(LIST).push(utf8ToBytes(lines.map((line) => line.map(quote).join(',') + LINE_END).join('')), true);
	archive.end();
}

async function add(
	archive: Archive,
	name: string,
	missing: string | undefined,
	write: SetFile['write']
): Promise<Outcome> {
	if (missing !== undefined) return { reason: missing };
	const sum = sha256.create();
	let bytes = 0;
	let file: ReturnType<Archive['file']> | undefined;
	const last = () => file?.push(new Uint8Array(), true);
	try {
		await write((chunk) => {
			sum.update(chunk);
			bytes += chunk.length;
			// Not before something comes: one that fails at once is not there at all.
			file ??= archive.file(name);
			file.push(chunk, false);
		});
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		last();
		return { reason: file ? `${cause.message} What is in the archive breaks off.` : cause.message };
	}
	if (bytes === 0) return { reason: 'It came out empty.' };
	last();
	return { bytes, sum: bytesToHex(sum.digest()) };
}
