import { messageOf } from '../../core/errors.ts';
import { keepContent } from '../../core/content.ts';
import { BYTES_A_POINT } from '../../core/placement/fields/picture.ts';
import type { Field } from '../../core/placement/fields/schema.ts';
import { sendContents } from '../worker/contents.ts';

type PictureSource = Extract<Field['source'], { kind: 'picture' }>;

/** Larger files are not opened. */
const MOST_BYTES = 64 * 2 ** 20;
/** Points along the longer side; larger pictures are made smaller, since no face has as many cells. */
const MOST_POINTS = 1024;

/** A picture file as what a field is made from; the server has its points then. Throws an Error in the user's words. */
async function readPicture(file: File): Promise<PictureSource> {
	if (file.size > MOST_BYTES)
		throw new Error(
			`“${file.name}” has ${Math.round(file.size / 2 ** 20)} MB; at most ${MOST_BYTES / 2 ** 20} MB are read.`
		);
	const bitmap = await createImageBitmap(file).catch(() => {
		throw new Error(
			`“${file.name}” is no picture that this browser can read; right would be a PNG, JPEG or WebP file.`
		);
	});
	const scale = Math.min(1, MOST_POINTS / Math.max(bitmap.width, bitmap.height));
	const [width, height] = [bitmap.width, bitmap.height].map((n) => Math.max(1, Math.round(n * scale))) as [
		number,
		number
	];
	const canvas = new OffscreenCanvas(width, height);
	const context = canvas.getContext('2d', { willReadFrequently: true })!;
	// What is clear in the picture lies on white paper.
	context.fillStyle = 'white';
	context.fillRect(0, 0, width, height);
	context.drawImage(bitmap, 0, 0, width, height);
	bitmap.close();
	const { data } = context.getImageData(0, 0, width, height);
	const pixels = new Uint8Array(width * height * BYTES_A_POINT);
	for (let k = 0, o = 0; k < data.length; k += 4) for (let c = 0; c < BYTES_A_POINT; c++) pixels[o++] = data[k + c]!;
	const name = keepContent(pixels);
	await sendContents([name]);
	return {
		kind: 'picture',
		file: file.name.slice(0, 200),
		pixels: name,
		width,
		height,
		channel: 'brightness',
		lay: 'fit',
		size: 5000,
		turn: 0
	};
}

/** What an input has been given, as `readPicture` makes it, or what is wrong with it; nothing where nothing was picked. */
export async function pickedPicture(
	input: HTMLInputElement
): Promise<PictureSource | { readonly error: string } | undefined> {
	const [file] = input.files ?? [];
	if (!file) return undefined;
	try {
		return await readPicture(file);
	} catch (cause) {
		return { error: messageOf(cause) };
	} finally {
		// The same file can be picked again.
		input.value = '';
	}
}
