import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { z } from 'zod';
import { ZygasterError } from './errors.ts';

/**
 * Large things (meshes, points of faces) stand beside the document, which names them by the hash of their bytes. What has
 * one name has always the same bytes, so that one store serves everybody in a process; whoever runs the core puts in
 * beforehand what the document names.
 */
const store = new Map<string, Uint8Array>();

/** SHA-256 (FIPS 180-4) of the bytes. */
export const contentNameSchema = z
	.string()
	.regex(/^sha256:[0-9a-f]{64}$/, 'must be the name of a content, sha256: and 64 digits from 0 to f');

/** Names of contents within a text. */
export const CONTENT_NAMES = /sha256:[0-9a-f]{64}/g;

export const contentNameOf = (bytes: Uint8Array): string => `sha256:${bytesToHex(sha256(bytes))}`;

/** Puts bytes into the store; answers their name. */
export function keepContent(bytes: Uint8Array): string {
	const name = contentNameOf(bytes);
	if (!store.has(name)) store.set(name, bytes);
	return name;
}

/** Puts in what came under a name. Throws a ZygasterError with code `content` where the bytes are other ones. */
export function takeContent(name: string, bytes: Uint8Array): void {
	if (store.has(name)) return;
	if (contentNameOf(bytes) !== name) {
		damaged.add(name);
		throw new ZygasterError(
			'content',
			`What came as ${short(name)} is something else: it was damaged on its way or where it was kept.`
		);
	}
	damaged.delete(name);
	store.set(name, bytes);
}

/** Puts in what somebody trustworthy has named, such as a worker of one's own. */
export const trustContent = (name: string, bytes: Uint8Array): void => void store.set(name, bytes);

/** Names under which something else has come. */
const damaged = new Set<string>();

export const hasContent = (name: string): boolean => store.has(name);

/** The bytes of a name. Throws a ZygasterError with code `content` where they are not here. */
export function contentOf(name: string): Uint8Array {
	const bytes = store.get(name);
	if (!bytes)
		throw new ZygasterError(
			'content',
			`its points (${short(name)}) are ${damaged.has(name) ? 'damaged' : 'missing'} where this project is kept; right would be to bring the file in again`
		);
	return bytes;
}

/** Lets go of contents, where they are kept elsewhere. */
export function dropContent(names: Iterable<string>): void {
	for (const name of names) store.delete(name);
}

/** A name as it is told. */
export const short = (name: string): string => `${name.slice(0, 15)}…`;

/** Numbers of a content, little endian; a copy, so that they begin where their size wants it. */
export const float64sOf = (name: string) => new Float64Array(contentOf(name).slice().buffer);
export const float32sOf = (name: string) => new Float32Array(contentOf(name).slice().buffer);
export const uint32sOf = (name: string) => new Uint32Array(contentOf(name).slice().buffer);

/** The bytes of an array of numbers. */
export const bytesOfArray = (array: Float64Array | Float32Array | Uint32Array) =>
	new Uint8Array(array.buffer as ArrayBuffer, array.byteOffset, array.byteLength);
