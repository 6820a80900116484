import { expose, transfer } from 'comlink';
import occtWasm from 'occt-import-js/dist/occt-import-js.wasm?url';
import occt from 'occt-import-js';
import { IfcAPI, LogLevel } from 'web-ifc';
import ifcWasm from 'web-ifc/web-ifc.wasm?url';
import { bytesOfArray, keepContent } from '../../core/content.ts';
import { messageOf, ZygasterError } from '../../core/errors.ts';
import {
	readModelFile,
	readModelFiles,
	type NamedFile,
	type ReaderPorts
} from '../../core/formats/modelFiles/readModelFile.ts';
import type { IfcPort } from '../../core/formats/ifc/readIfc.ts';
import { borderLoops } from '../../core/mesh/borders.ts';
import {
	addRepairs,
	layPart,
	partPieces,
	preparePiece,
	sizeHint,
	type FacePart,
	type FileContent,
	type LaidPart,
	type PreparedPiece
} from '../../core/mesh/importMesh.ts';
import type { Split } from '../../core/mesh/regions.ts';
import { moduleOf } from '../../core/project/moduleMesh.ts';
import type { ModuleMesh } from '../../core/project/schema.ts';
import type { Repairs } from '../../core/mesh/repair.ts';
import { withContents, type WithContents } from './contents.ts';

const silent = () => undefined;

const PORTS: ReaderPorts = {
	solid: () => occt({ locateFile: () => occtWasm, print: silent, printErr: silent }),
	ifc: async () => {
		const ifc = new IfcAPI();
		await ifc.Init(() => ifcWasm, true);
		ifc.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
		return ifc as unknown as IfcPort;
	}
};

export interface FileSummary {
	/** mm of the file's unit, where the file tells. */
	readonly mm: number | undefined;
	readonly pieces: readonly { readonly name: string; readonly triangles: number }[];
	/** The file tells which triangles make a face. */
	readonly hasFaces: boolean;
}

/** Faces as they would be parted, to be looked at. */
export interface PartsView {
	readonly parts: readonly {
		readonly id: string;
		readonly name: string;
		readonly triangles: number;
		/** mm less `origin`, stride 3. */
		readonly positions: Float32Array;
		readonly indices: Uint32Array;
	}[];
	readonly origin: readonly [number, number, number];
	readonly repairs: Repairs;
	readonly hint: string | undefined;
}

export type Answer<T> = { readonly value: T } | { readonly error: string };

/** Reads model files and holds it while it is parted and laid over. */
class ImportWorker {
	private content: FileContent | undefined;
	private prepared: PreparedPiece[] = [];
	private preparedFor = '';
	private parts: FacePart[] = [];
	/** Laid faces by their id and corners, until the parts change. */
	private readonly laid = new Map<string, LaidPart>();

	read(files: readonly NamedFile[]): Promise<Answer<FileSummary>> {
		return attempt(async () => {
			this.content = await readModelFiles(files, PORTS);
			this.preparedFor = '';
			return {
				mm: this.content.mm,
				pieces: this.content.pieces.map((p) => ({ name: p.name, triangles: p.mesh.triangles.length / 3 })),
				hasFaces: this.content.pieces.some((p) => p.mesh.faceOf)
			};
		});
	}

	/** A model file as one mesh for modules. */
	module(name: string, bytes: Uint8Array): Promise<Answer<WithContents<Omit<ModuleMesh, 'id'>>>> {
		return attempt(async () => {
			const module = moduleOf(name, await readModelFile(name, bytes, PORTS));
			return withContents(module, [module.positions, module.triangles]);
		});
	}

	/** Mends the chosen pieces and parts them into faces. */
	part(mm: number, chosen: readonly number[], split: Split): Promise<Answer<PartsView>> {
		return attempt(() => {
			const key = `${mm} ${chosen.join()}`;
			if (key !== this.preparedFor) this.prepared = chosen.map((k) => preparePiece(this.content!.pieces[k]!, mm));
			this.preparedFor = key;
			this.parts = partPieces(this.prepared, split);
			this.laid.clear();
			const origin = middleOf(this.parts);
			const view = {
				origin,
				repairs: addRepairs(this.prepared),
				hint: sizeHint(this.prepared),
				parts: this.parts.map(({ id, name, mesh }) => ({
					id,
					name,
					triangles: mesh.triangles.length / 3,
					positions: Float32Array.from(mesh.positions, (x, o) => x - origin[o % 3]!),
					indices: mesh.triangles.slice()
				}))
			};
			return transfer(
				view,
				view.parts.flatMap((p) => [p.positions.buffer, p.indices.buffer] as ArrayBuffer[])
			);
		});
	}

	/** Lays one face over. */
	lay(id: string, corners: readonly number[] | undefined): Promise<Answer<WithContents<LaidPart>>> {
		return attempt(() => {
			const key = `${id} ${corners?.join() ?? ''}`;
			const known = this.laid.get(key) ?? layPart(this.partOf(id), corners);
			this.laid.set(key, known);
			return withContents(known, [known.face.points]);
		});
	}

	/** The border's vertices nearest to four points, as corners; nothing when two fall together. */
	corners(id: string, points: readonly (readonly [number, number, number])[]): number[] | undefined {
		const { mesh } = this.partOf(id);
		const loop = borderLoops(mesh)[0];
		if (!loop) return undefined;
		const far = (v: number, p: readonly [number, number, number]) =>
			Math.hypot(...[0, 1, 2].map((c) => mesh.positions[v * 3 + c]! - p[c]!));
		const found = points.map((p) =>
			loop.vertices.reduce((best, v, k) => (far(v, p) < far(loop.vertices[best]!, p) ? k : best), 0)
		);
		if (new Set(found).size < 4) return undefined;
		// They must follow each other around the border, from the first one on.
		const n = loop.vertices.length;
		const after = (k: number) => (k - found[0]! + n) % n;
		return [...found].sort((a, b) => after(a) - after(b));
	}

	/** All chosen pieces as one grey surface. */
	reference(): WithContents<{ readonly positions: string; readonly triangles: string; readonly count: number }> {
		const count = this.prepared.reduce((n, p) => n + p.mesh.positions.length, 0);
		const positions = new Float32Array(count);
		const triangles = new Uint32Array(this.prepared.reduce((n, p) => n + p.mesh.triangles.length, 0));
		let [at, t] = [0, 0];
		for (const { mesh } of this.prepared) {
			positions.set(mesh.positions, at);
			for (const v of mesh.triangles) triangles[t++] = v + at / 3;
			at += mesh.positions.length;
		}
		const names = { positions: keepContent(bytesOfArray(positions)), triangles: keepContent(bytesOfArray(triangles)) };
		return withContents({ ...names, count: triangles.length / 3 }, Object.values(names));
	}

	private partOf(id: string): FacePart {
		return this.parts.find((p) => p.id === id)!;
	}
}

function middleOf(parts: readonly FacePart[]): [number, number, number] {
	const least = [Infinity, Infinity, Infinity];
	const most = [-Infinity, -Infinity, -Infinity];
	for (const { mesh } of parts)
		mesh.positions.forEach((x, o) => {
			least[o % 3] = Math.min(least[o % 3]!, x);
			most[o % 3] = Math.max(most[o % 3]!, x);
		});
	return [0, 1, 2].map((c) => (least[c]! + most[c]!) / 2) as [number, number, number];
}

/** What went wrong crosses to the interface in words. */
async function attempt<T>(work: () => T | Promise<T>): Promise<Answer<T>> {
	try {
		return { value: await work() };
	} catch (cause) {
		const known = cause instanceof ZygasterError;
		return { error: known ? cause.message : `Something went wrong with this file: ${messageOf(cause)}` };
	}
}

export type ImportWorkerApi = ImportWorker;
expose(new ImportWorker());
