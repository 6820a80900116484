import { transfer } from 'comlink';
import { messageOf } from '../../core/errors.ts';
import { pointOn } from '../../core/geometry/pointOn.ts';
import type { KitHost } from '../../core/kit/schema.ts';
import type { TrialHost } from '../../core/kit/trialHosts.ts';
import type { Point } from '../../core/placement/batches.ts';
import { hostOfFace } from '../../core/placement/hostOfFace.ts';
import { holds } from '../../core/placement/rules/conditions.ts';
import type { Condition } from '../../core/placement/rules/schema.ts';
import { RuleHosts } from '../../core/placement/rules/ruleHosts.ts';
import { NodeKeys } from '../../core/placement/drawn/nodeKeys.ts';
import type { NodeKey } from '../../core/placement/drawn/schema.ts';
import { flattener } from '../../core/placement/fields/flatten.ts';
import { RuleScope } from '../../core/placement/rules/scope.ts';
import type { FaceModel } from '../../core/project/faceResult.ts';
import { CELL_READINGS, type CellReading } from '../../core/readings/cellReadings.ts';
import { READING_NAMES, readingsOf, type ReadingName } from '../../core/readings/faceReadings.ts';
import { bearingOf } from '../../core/drawing/eye.ts';
import { developmentOf, findFlat, flattenPlaces } from '../../core/settingout/development.ts';
import { nearAndFar, type NearAndFar } from '../../core/project/coarseCells.ts';
import { viewFlat, type FlatView } from '../../core/view/flatView.ts';
import { buffersIn } from '../../core/view/buffers.ts';
import { linesOf } from '../../core/view/faceLines.ts';
import type { PickedCell, PickedPlace, Picking } from './picking.ts';
import { ModelState } from './modelState.ts';

/** A field on the cells of a face. */
export interface FieldView {
	readonly values: Float32Array<ArrayBuffer>;
	/** What the values count as, from 0 to 1. */
	readonly shares: Float32Array<ArrayBuffer>;
	/** Values that count as 0 and 1. */
	readonly range: readonly [number, number];
	/** Why there is none. */
	readonly error?: string;
}

/** Values of a reading: one column for each face that had it when it was kept. */
export interface ReadingColumns {
	readonly keys: readonly string[];
	readonly columns: readonly Float32Array<ArrayBuffer>[];
}

/** What can be asked of the faces of the model that is here. Faces are asked for by the hash of their view, or by their key. */
export abstract class FaceAnswers extends ModelState {
	private picking: Picking | undefined;
	/** Readings of the model that later ones are compared with. */
	private reference: readonly {
		readonly key: string;
		readonly columns: Readonly<Record<ReadingName, Float32Array<ArrayBuffer>>>;
	}[] = [];

	/** The bearing that a face looks at, by its key; nothing of one that is not divided. */
	bearingOf(key: string): number | undefined {
		const face = this.model?.faces.find((f) => f.key === key);
		return face && bearingOf(face);
	}

	readings(hash: string, cell: number): Record<CellReading, number> | undefined {
		const face = this.views.get(hash);
		if (!face) return undefined;
		const readings = readingsOf(measured(face));
		const names = Object.keys(CELL_READINGS) as CellReading[];
		return Object.fromEntries(names.map((n) => [n, readings.column(`cell.${n}`)[cell]!])) as Record<
			CellReading,
			number
		>;
	}

	/** A divided face laid flat; nothing when the model has no such face. */
	flat(key: string): FlatView | undefined {
		const face = this.face(key);
		if (!face) return undefined;
		const view = viewFlat(face, this.project.levels);
		return transfer(view, [
			view.corners.buffer,
			view.border.buffer,
			...view.levels.map((l) => l.segments.buffer)
		] as ArrayBuffer[]);
	}

	/** A host of a face as it is, for the bench: of the kind that the kit stands on, by its number; nothing where there is none. */
	trialHost(key: string, host: KitHost, element: number): TrialHost | undefined {
		const face = this.face(key);
		return face && hostOfFace(measured(face), host, element);
	}

	/** A point of a face in space, mm, for a place of the face laid flat; nothing off the face. */
	onFace(key: string, x: number, y: number): Point | undefined {
		const face = this.face(key);
		const found = face && findFlat(developmentOf(face.charted), x, y);
		return found && pointOn(face.charted.surface, found.u, found.v).position;
	}

	/** What the node nearest to each place of the face laid flat is known by, mm; nothing for a face that is not there. */
	nodeKeys(key: string, places: readonly (readonly [number, number])[]): readonly (NodeKey | undefined)[] | undefined {
		const face = this.face(key);
		if (!face) return undefined;
		const keys = new NodeKeys(face);
		const flat = flattenPlaces(developmentOf(face.charted), face.nodes);
		const { cornerStart, corners, places: placeOf = corners, count } = face.cells;
		return places.map(([x, y]) => {
			let [best, least] = [-1, Infinity];
			for (let k = 0; k < cornerStart[count]!; k++) {
				const p = placeOf[k]! * 2;
				const far = Math.hypot(flat[p]! - x, flat[p + 1]! - y);
				if (far < least) [best, least] = [corners[k]!, far];
			}
			return best < 0 ? undefined : keys.keyOf(best);
		});
	}

	/** Where points in space, mm, lie on the face laid flat, each where it is nearest to the face; stride 2. Nothing off a face that is not there. */
	flatOf(key: string, points: readonly Point[]): readonly (readonly [number, number])[] | undefined {
		const face = this.face(key);
		return face && flattener(face.charted)(points).map(([x, y]) => [x, y] as const);
	}

	/** Values of a reading on faces; nothing for a face that is not there any more. */
	columns(name: ReadingName, hashes: readonly string[]): readonly (Float32Array<ArrayBuffer> | undefined)[] {
		const columns = hashes.map((hash) => {
			const face = this.views.get(hash);
			return face && Float32Array.from(readingsOf(measured(face)).column(name));
		});
		return transfer(columns, buffersIn(columns));
	}

	/** A field of the project on the cells of faces; nothing for a face that is not there any more. */
	field(id: string, hashes: readonly string[]): readonly (FieldView | undefined)[] {
		const views = hashes.map((hash): FieldView | undefined => {
			const face = this.views.get(hash);
			if (!face) return undefined;
			try {
				const { values, shares, range } = this.cellScope(face).field(id);
				return { values: Float32Array.from(values), shares: Float32Array.from(shares), range };
			} catch (cause) {
				return { values: new Float32Array(), shares: new Float32Array(), range: [0, 0], error: messageOf(cause) };
			}
		});
		return transfer(views, buffersIn(views));
	}

	/** The cells of a face with all that can be said of them. */
	private cellScope(face: FaceModel): RuleScope {
		const { fields, numbers, levels } = this.project;
		const hosts = new RuleHosts('cell', { ...measured(face), charted: face.charted });
		return new RuleScope(hosts, { key: face.key, fields, numbers, levels, openings: face.openings });
	}

	/** Cells of faces on which all conditions hold; those of each face, or why they cannot be worked out. */
	cellsWhere(
		where: readonly Condition[],
		hashes: readonly string[]
	): readonly (readonly number[])[] | { error: string } {
		const { zones } = this.project;
		try {
			return hashes.map((hash) => {
				const face = this.views.get(hash);
				if (!face) return [];
				const scope = this.cellScope(face);
				const world = {
					key: face.key,
					zone: (id: string) => zones.find((z) => z.id === id)?.parts.find((p) => p.face === face.key)?.runs ?? [],
					taken: () => undefined
				};
				const masks = where.map((c) => holds(c, scope, world));
				return Array.from({ length: scope.hosts.count }, (_, c) => c).filter((c) => masks.every((m) => m[c] === 1));
			});
		} catch (cause) {
			return { error: messageOf(cause) };
		}
	}

	/** Values of a reading as they were when the reference was kept. */
	referenceColumns(name: ReadingName): ReadingColumns {
		return { keys: this.reference.map((r) => r.key), columns: this.reference.map((r) => r.columns[name].slice()) };
	}

	/** Keeps all readings of the present model, to compare later ones with. */
	keepReference(): void {
		this.reference = (this.model?.faces ?? []).map((face) => ({
			key: face.key,
			columns: Object.fromEntries(
				READING_NAMES.map((name) => [name, Float32Array.from(readingsOf(measured(face)).column(name))])
			) as Record<ReadingName, Float32Array<ArrayBuffer>>
		}));
	}

	dropReference(): void {
		this.reference = [];
	}

	/** Triangles of the cells of faces, for colouring; nothing for a face that is not there any more. */
	meshes(hashes: readonly string[]): readonly (NearAndFar | undefined)[] {
		const meshes = hashes.map((hash) => {
			const face = this.views.get(hash);
			return face && nearAndFar(face, this.viewer.originFor(this.model!));
		});
		return transfer(meshes, buffersIn(meshes));
	}

	/** The edges of a face as they follow it: segments in mm less the model's origin, stride 6. */
	curves(hash: string): Float32Array | undefined {
		const face = this.views.get(hash);
		if (!face) return undefined;
		const segments = linesOf(face, this.viewer.originFor(this.model!));
		return transfer(segments, [segments.buffer]);
	}

	/** The nearest cell of the faces that are shown along a ray, mm. */
	async pick(origin: Point, direction: Point): Promise<PickedCell | undefined> {
		const picking = await this.pickingHere();
		return picking.cell(this.model, this.hidden, origin, direction);
	}

	/** The place of a face, and its nearest node, that a ray meets first, mm; nothing where it meets none. */
	async pickPlace(origin: Point, direction: Point): Promise<PickedPlace | undefined> {
		const picking = await this.pickingHere();
		return picking.place(this.model, this.hidden, origin, direction);
	}

	private async pickingHere(): Promise<Picking> {
		const { Picking } = await this.askedLater();
		return (this.picking ??= new Picking());
	}
}

/** A face as its setting-out sees it. */
const measured = (face: FaceModel) => ({ ...face, surface: face.charted.surface });
