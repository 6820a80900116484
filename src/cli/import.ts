import { readFile, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { messageOf, ZygasterError } from '../core/errors.ts';
import { writeJson } from '../core/formats/json/writeJson.ts';
import { readModelFiles } from '../core/formats/modelFiles/readModelFile.ts';
import { layPieces, preparePiece, type ImportReport } from '../core/mesh/importMesh.ts';
import { newMass } from '../core/project/newMass.ts';
import { checkDocument } from '../core/project/read.ts';
import { emptyProject } from '../core/project/starter.ts';
import { faceKey } from '../core/project/schema.ts';
import { FILE_UNITS } from '../core/units/fileUnits.ts';
import { NODE_READERS } from './readers.ts';

export interface ImportOptions {
	readonly out: string;
	/** Unit where the file does not tell. */
	readonly unit: string | undefined;
	/** Degrees; without it faces part as the file says, else at creases of 30 degrees. */
	readonly crease: string | undefined;
}

export interface ImportSummary extends ImportReport {
	readonly file: string;
	readonly unit: { readonly mm: number; readonly from: 'file' | 'option' };
	readonly pieces: readonly string[];
	/** Holes that could not be made openings. */
	readonly openingsLeft: readonly string[];
}

/** Makes a project with the masses of files. Throws a ZygasterError for anything the user can mend. */
export async function importFiles(paths: readonly string[], options: ImportOptions): Promise<ImportSummary> {
	const files = await Promise.all(
		paths.map(async (path) => {
			const bytes = await readFile(path).catch((cause: unknown) => {
				throw new ZygasterError('file', `${path} cannot be read: ${messageOf(cause)}`, path, { cause });
			});
			return { name: basename(path), bytes };
		})
	);
	const name = files.length === 1 ? files[0]!.name : `${files[0]!.name} and others`;
	const content = await readModelFiles(files, NODE_READERS);
	const mm = content.mm ?? unitOf(name, options.unit);
	const pieces = content.pieces.map((piece) => preparePiece(piece, mm));
	const crease = options.crease === undefined ? undefined : Number(options.crease);
	if (crease !== undefined && !(crease > 0 && crease < 180))
		throw new ZygasterError(
			'option',
			`--crease ${options.crease} is no angle; right would be a number of degrees between 0 and 180.`
		);
	const byFile = crease === undefined && pieces.some((p) => p.mesh.faceOf);
	const { faces, report } = layPieces(
		pieces,
		byFile ? { kind: 'file' } : { kind: 'crease', angle: ((crease ?? 30) * Math.PI) / 180 }
	);
	const project = emptyProject(files[0]!.name.replace(/\.[^.]*$/, '') || name);
	const openingsLeft: string[] = [];
	const mass = newMass({ kind: 'imported', file: name, faces }, [], {
		id: 'mass-1',
		name: project.name,
		marks: [],
		note: (words) => openingsLeft.push(words)
	});
	project.masses.push(mass);
	const keys = mass.faces.map((face) => faceKey(mass, face));
	project.rules = [{ id: 'rule-1', set: 'panels', faces: keys, where: [], kit: 'framed-pane', values: {} }];
	await writeFile(options.out, writeJson(checkDocument(project))).catch((cause: unknown) => {
		throw new ZygasterError('file', `${options.out} cannot be written: ${messageOf(cause)}`, options.out, { cause });
	});
	return {
		file: name,
		unit: { mm, from: content.mm === undefined ? 'option' : 'file' },
		pieces: pieces.map((p) => p.name),
		...report,
		openingsLeft
	};
}

function unitOf(name: string, unit: string | undefined): number {
	const mm = FILE_UNITS.find((u) => u.name === unit)?.mm;
	if (mm) return mm;
	const names = FILE_UNITS.map((u) => u.name).join(', ');
	throw new ZygasterError(
		'option',
		unit === undefined
			? `“${name}” does not tell its unit; add --unit with one of ${names}.`
			: `--unit ${unit} is unknown; right would be one of ${names}.`
	);
}
