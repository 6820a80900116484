import type { FlatAction, FlatEvents } from '../stage/flatPointer.ts';
import type { FlatPoint, FlatScene } from '../stage/flatScene.ts';
import { brushed, paintedValues, putPainted } from './fieldBrush.ts';
import { addOpening, draggable, drawnCircle, drawnOpening, drawnRectangle, moveOpening } from './openings.ts';
import { PATH_POINTS } from './drawnPaths.ts';
import { PathPoints } from './pathPoints.svelte.ts';
import { FieldPoints } from './fieldPoints.svelte.ts';
import type { Workspace } from './workspace.svelte.ts';
import { gradeAt } from './tilings.ts';
import { paintZone, type Field } from './zones.ts';

/** What the pointer on the developed view does to the project and the selection. */
export class DevelopedEvents implements FlatEvents {
	/** The line under way, mm. */
	line = $state.raw<readonly FlatPoint[]>([]);
	lineClosed = $state(false);
	/** What is wrong with the last thing done. */
	error = $state<string>();
	/** Drops a line under way; the pointer gives it. */
	cancelDrawing: () => void = () => undefined;
	/** Fields of the stroke under way, for the zone that is painted. */
	stroke = $state.raw<readonly Field[]>([]);

	/** Points of the open path. */
	readonly pathPoints: PathPoints;
	/** Points of the open field. */
	readonly fieldPoints: FieldPoints;

	private readonly work: Workspace;
	readonly scene: () => FlatScene | undefined;
	private readonly face: () => number;

	constructor(work: Workspace, scene: () => FlatScene | undefined, face: () => number) {
		this.work = work;
		this.fieldPoints = new FieldPoints(work);
		this.pathPoints = new PathPoints(work);
		this.scene = scene;
		this.face = face;
	}

	action(): FlatAction {
		const { tool } = this.work.flat;
		switch (tool) {
			case 'select':
				return { kind: 'choose' };
			case 'lasso':
				return { kind: 'lasso' };
			case 'paint':
			case 'erase':
				return { kind: 'paint' };
			case 'rectangle':
			case 'circle':
				return { kind: 'drag', shape: tool };
			case 'polygon':
			case 'spline':
				return { kind: 'points', closed: true };
			case 'line':
				return { kind: 'points', closed: false, ...(this.pointsAsked === undefined ? {} : { most: this.pointsAsked }) };
		}
	}

	/** How many points are asked for; any number where left out. */
	get pointsAsked(): number | undefined {
		const { flat, openPath, face } = this.work;
		if (flat.lineFor === 'path') return openPath && PATH_POINTS[openPath.source.kind].most;
		const tiling = face.current?.face.tiling;
		return flat.lineFor === 'grading' && tiling?.kind === 'voronoi' && tiling.grading.kind === 'point' ? 1 : undefined;
	}

	chose(cells: readonly number[], add: boolean): void {
		this.error = undefined;
		if (!add && cells.length === 0) this.work.flat.opening = undefined;
		const view = this.work.runner.view;
		if (!view) return;
		const [first] = cells;
		// One cell that is chosen already is let go of.
		if (cells.length === 1) this.work.selection.choose(view, { face: this.face(), cell: first! }, add);
		else
			this.work.selection.chooseAll(
				view,
				cells.map((cell) => ({ face: this.face(), cell })),
				add
			);
	}

	hovered(cell: number | undefined): void {
		this.work.selection.hovered = cell === undefined ? undefined : { face: this.face(), cell };
	}

	painted(cells: readonly number[], done: boolean): void {
		const { zone, tool } = this.work.flat;
		const key = this.work.face.current?.key;
		const face = this.scene()?.face;
		if (!key || !face) return;
		if (this.work.paintedField) return this.paintField(cells, done);
		if (!zone) return;
		this.stroke = [
			...this.stroke,
			...cells.filter((c) => c < face.cellCount).map((c) => ({ row: face.row[c]!, column: face.column[c]! }))
		];
		if (!done) return;
		const fields = this.stroke;
		this.stroke = [];
		this.error = this.work.editor.commit(tool === 'erase' ? 'Erase from zone' : 'Paint zone', (draft) =>
			paintZone(draft, zone, key, fields, tool === 'erase')
		);
	}

	/** Cells of the stroke under way, for the field that is painted. */
	private strokeCells: readonly number[] = [];

	private paintField(cells: readonly number[], done: boolean): void {
		this.strokeCells = [...this.strokeCells, ...cells];
		if (!done) return;
		const stroke = this.strokeCells;
		this.strokeCells = [];
		const { paintedField: field, flat, face, editor } = this.work;
		const scene = this.scene();
		if (field?.source.kind !== 'painted' || !scene || !stroke.length) return;
		const { key } = face.current!;
		const wipe = flat.tool === 'erase';
		const values = brushed(scene.face, scene.flat.corners, paintedValues(field.source, key), stroke, flat.brush, wipe);
		this.error = editor.commit(wipe ? 'Wipe the field' : 'Paint the field', (draft) =>
			putPainted(draft, field.id, key, values)
		);
	}

	drawing(points: readonly FlatPoint[], closed: boolean): void {
		this.line = points;
		this.lineClosed = closed;
	}

	drawn(points: readonly FlatPoint[]): void {
		const { flat, editor } = this.work;
		if (flat.tool === 'line' && flat.lineFor === 'path') {
			void this.pathPoints.draw(points).then((error) => (this.error = error));
		} else if (flat.tool === 'line' && typeof flat.lineFor === 'number') {
			void this.fieldPoints.draw(flat.lineFor, points).then((error) => (this.error = error));
		} else if (flat.tool === 'line' && flat.lineFor === 'grading')
			this.error = editor.commit(
				'Draw where cells are small',
				this.work.face.onFace((face) => gradeAt(face, points))
			);
		else if (flat.tool === 'line') {
			const name = flat.lineFor as 'across' | 'up';
			this.error = editor.commit(
				'Draw the line of the grid',
				this.work.face.onFace(({ settingOut }) => {
					const { spacing } = settingOut[name];
					const divisions = spacing.kind === 'curve' ? spacing.divisions : 8;
					settingOut[name].spacing = { kind: 'curve', points: points.map(([x, y]) => [x, y]), divisions };
				})
			);
		} else {
			const opening =
				flat.tool === 'rectangle'
					? drawnRectangle(points[0]!, points[1]!)
					: flat.tool === 'circle'
						? drawnCircle(points[0]!, points[1]!)
						: drawnOpening(flat.tool === 'spline' ? 'spline' : 'polygon', points);
			let id = '';
			this.error = editor.commit(
				'Draw opening',
				this.work.face.onFace((face) => (id = addOpening(face, opening)))
			);
			if (!this.error) flat.opening = id;
		}
		if (!this.error) flat.tool = 'select';
	}

	pointAt(at: FlatPoint, within: number): number | undefined {
		return this.fieldPoints.at(at, within);
	}

	pointMoved(k: number, at: FlatPoint, done: boolean): void {
		void this.fieldPoints.move(k, at, done);
	}

	grabbed(id: string): boolean {
		this.work.flat.opening = id;
		const opening = this.work.face.current?.face.openings.find((o) => o.id === id);
		return opening !== undefined && draggable(opening);
	}

	moved(id: string, [dx, dy]: FlatPoint, done: boolean): void {
		if (Math.hypot(dx, dy) === 0) return;
		const change = this.work.face.onFace((face) =>
			moveOpening(
				face.openings.find((o) => o.id === id)!,
				dx,
				dy
			)
		);
		this.error = done ? this.work.editor.commit('Move opening', change) : this.work.editor.preview(change);
	}
}
