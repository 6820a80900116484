import { utf8 } from '@scure/base';
import { messageOf, ZygasterError } from '../../errors.ts';
import type { FileContent } from '../../mesh/importMesh.ts';
import { readGltf } from '../glb/readGlb.ts';
import { readIfc, type IfcPort } from '../ifc/readIfc.ts';
import { readObj } from '../obj/readObj.ts';
import { readPly } from '../ply/readPly.ts';
import { filesNamed, readSolid, type SolidPort } from '../step/readSolid.ts';
import { readStl } from '../stl/readStl.ts';
import { detectFormat } from './detect.ts';

/** What a host lends the readers: packages whose WASM it knows where to find. */
export interface ReaderPorts {
	readonly solid: () => Promise<SolidPort>;
	readonly ifc: () => Promise<IfcPort>;
}

/** A file that only puts other files together. */
class AssemblyError extends ZygasterError {
	constructor(name: string, named: readonly string[]) {
		const list = named.map((n) => `“${n}”`).join(', ');
		super(
			'model-file',
			`“${name}” holds no surface of its own: it puts together ${list}. Right would be to bring ${named.length === 1 ? 'this file' : 'these files'} in${named.length === 1 ? '' : ', all at once if you like'}.`
		);
	}
}

/** A file as it was chosen. */
export interface NamedFile {
	readonly name: string;
	readonly bytes: Uint8Array;
}

/**
 * Reads several files as one: each piece where its own file has it. Files that only put others of them together are
 * passed over. Throws as `readModelFile` does, and where files tell different units with some that tell none.
 */
export async function readModelFiles(files: readonly NamedFile[], ports: ReaderPorts): Promise<FileContent> {
	if (files.length === 1) return readModelFile(files[0]!.name, files[0]!.bytes, ports);
	const contents: FileContent[] = [];
	let assembly: AssemblyError | undefined;
	for (const { name, bytes } of files) {
		try {
			contents.push(await readModelFile(name, bytes, ports));
		} catch (cause) {
			if (!(cause instanceof AssemblyError)) throw cause;
			assembly ??= cause;
		}
	}
	if (contents.length === 0 && assembly) throw assembly;
	const units = new Set(contents.map((c) => c.mm));
	if (units.size > 1 && units.has(undefined))
		throw new ZygasterError(
			'model-file',
			'Some of these files tell their unit and some do not. Right would be to bring those in apart.'
		);
	const [first] = contents;
	const mm = first!.mm;
	return {
		mm,
		pieces: contents.flatMap((content) =>
			content.pieces.map((piece) =>
				content.mm === mm || mm === undefined
					? piece
					: { ...piece, mesh: { ...piece.mesh, positions: piece.mesh.positions.map((x) => (x * content.mm!) / mm) } }
			)
		)
	};
}

export const MOST_TRIANGLES = 2_000_000;

/** Reads the pieces of a model file. Throws a ZygasterError with code `model-file` in the user's words. */
export async function readModelFile(name: string, bytes: Uint8Array, ports: ReaderPorts): Promise<FileContent> {
	const format = detectFormat(name, bytes);
	let content: FileContent;
	try {
		content = await READERS[format](bytes, ports);
	} catch (cause) {
		if (cause instanceof ZygasterError) throw cause;
		throw new ZygasterError(
			'model-file',
			`“${name}” cannot be read as ${format.toUpperCase()}; it may be cut off or damaged (${messageOf(cause)}).`,
			'',
			{ cause }
		);
	}
	const filled = content.pieces.filter((p) => p.mesh.triangles.length > 0);
	const pieces = filled.map((p, k) => ({
		...p,
		name: p.name.trim() || (filled.length === 1 ? 'Face' : `Piece ${k + 1}`)
	}));
	const total = pieces.reduce((n, p) => n + p.mesh.triangles.length / 3, 0);
	if (total === 0) {
		const named = format === 'step' ? filesNamed(bytes) : [];
		if (named.length) throw new AssemblyError(name, named);
		throw new ZygasterError('model-file', `“${name}” holds no surface; lines and points are not read.`);
	}
	if (total > MOST_TRIANGLES)
		throw new ZygasterError('model-file', `“${name}” has ${total} triangles; at most ${MOST_TRIANGLES} are read.`);
	return { ...content, pieces };
}

const READERS: Record<
	ReturnType<typeof detectFormat>,
	(bytes: Uint8Array, ports: ReaderPorts) => Promise<FileContent> | FileContent
> = {
	step: async (bytes, ports) => readSolid(await ports.solid(), 'step', bytes),
	iges: async (bytes, ports) => readSolid(await ports.solid(), 'iges', bytes),
	brep: async (bytes, ports) => readSolid(await ports.solid(), 'brep', bytes),
	ifc: async (bytes, ports) => readIfc(await ports.ifc(), bytes),
	obj: (bytes) => readObj(utf8.encode(bytes)),
	stl: readStl,
	glb: (bytes) => readGltf(bytes, true),
	gltf: (bytes) => readGltf(bytes, false),
	ply: readPly
};
