import { messageOf } from '../../core/errors.ts';
import type { OwnTiling } from '../../core/project/schema.ts';
import { readTiling, writeTiling } from '../../core/tiling/units/tilingFile.ts';
import { checkUnit, type UnitFaults } from '../../core/tiling/units/checkUnit.ts';
import type { TilingUnit, UnitPoint } from '../../core/tiling/units/unit.ts';
import {
	moveCorner,
	named,
	parseCorners,
	removeTiling,
	useTiling,
	withCell,
	withChangedCell,
	withoutCell
} from './ownTilings.ts';
import { saveFile } from './saveFile.ts';
import type { Workspace } from './workspace.svelte.ts';

/** Editing the unit of one of the project's own tilings: what is chosen, what is drawn, and changes that can be undone. */
export class UnitEdit {
	readonly id: string;
	selected = $state<number>();
	corner = $state<number>();
	/** Corners of the cell that is being drawn; nothing while none is. */
	drawing = $state.raw<readonly UnitPoint[]>();
	/** Points snap to so many parts of a field. */
	parts = $state(2);
	/** A moved corner takes along the corners of neighbours at the same place. */
	together = $state(true);
	error = $state<string>();

	private readonly work: Workspace;
	/** The unit as it was when a drag began. */
	private held: TilingUnit | undefined;

	constructor(work: Workspace, id: string) {
		this.work = work;
		this.id = id;
	}

	get tiling(): OwnTiling | undefined {
		return this.work.project.tilings.find((t) => t.id === this.id);
	}

	get unit(): TilingUnit {
		return this.tiling!.unit;
	}

	get faults(): UnitFaults {
		return checkUnit(this.unit);
	}

	choose(cell: number | undefined): void {
		this.selected = cell;
		this.corner = undefined;
	}

	/** Accepts a changed unit. */
	commit(label: string, make: () => TilingUnit): void {
		try {
			const unit = make();
			this.error = this.work.editor.commit(
				label,
				(draft) => (draft.tilings.find((t) => t.id === this.id)!.unit = unit)
			);
		} catch (cause) {
			this.error = messageOf(cause);
		}
	}

	rename(name: string): string | undefined {
		return this.work.editor.commit(
			'Rename tiling',
			(draft) => (draft.tilings.find((t) => t.id === this.id)!.name = name)
		);
	}

	/** Moves a corner of the chosen cell, with those of its neighbours there. */
	move(corner: number, to: UnitPoint, done: boolean): void {
		this.held ??= this.unit;
		const cell = this.selected;
		const from = cell === undefined ? undefined : this.held.cells[cell]?.corners[corner];
		if (!from) return;
		const next = moveCorner(this.held, from, to, this.together ? undefined : cell);
		const error = this.work.editor.preview(
			(draft) => (draft.tilings.find((t) => t.id === this.id)!.unit = structuredClone(next))
		);
		if (!done) return void (this.error = error);
		this.held = undefined;
		if (!error) return this.commit('Move corner', () => next);
		this.work.editor.revert();
		this.error = error;
	}

	/** Moves the chosen corner by parts of a field. */
	step(x: number, y: number): void {
		const at =
			this.selected === undefined || this.corner === undefined
				? undefined
				: this.unit.cells[this.selected]?.corners[this.corner];
		if (at) this.move(this.corner!, [at[0] + x / this.parts, at[1] + y / this.parts], true);
	}

	nextCorner(): void {
		const cell = this.selected === undefined ? undefined : this.unit.cells[this.selected];
		if (cell) this.corner = ((this.corner ?? -1) + 1) % cell.corners.length;
	}

	/** A corner of the cell that is being drawn; the first one again ends it. */
	addPoint(at: UnitPoint): void {
		const points = this.drawing ?? [];
		const [first] = points;
		if (first && points.length > 2 && near(first, at)) return this.finish();
		if (points.some((p) => near(p, at))) return;
		this.drawing = [...points, at];
	}

	stepBack(): void {
		this.drawing = this.drawing?.slice(0, -1);
	}

	finish(): void {
		const points = this.drawing;
		if (!points || points.length < 3) return void (this.error = 'A cell has at least three corners.');
		this.drawing = undefined;
		const role = this.unit.cells[this.selected ?? 0]?.role ?? 'panel';
		this.commit('Add cell', () => withCell(this.unit, points, role));
		if (!this.error) this.choose(this.unit.cells.length - 1);
	}

	remove(): void {
		const cell = this.selected;
		if (cell === undefined) return;
		this.commit('Remove cell', () => withoutCell(this.unit, cell));
		if (!this.error) this.choose(undefined);
	}

	setRole(role: string): string | undefined {
		this.commit('Change role', () => withChangedCell(this.unit, this.selected!, { role }));
		return this.error;
	}

	/** Takes corners as text; answers what is wrong with them. */
	setCorners(text: string): string | undefined {
		const read = parseCorners(text);
		if ('error' in read) return read.error;
		this.commit('Change corners', () => withChangedCell(this.unit, this.selected!, { corners: read.corners }));
		return this.error;
	}

	save(): void {
		const { name, unit } = this.tiling!;
		saveFile(`${name.replace(/[^\p{L}\p{N}-]+/gu, '-').toLowerCase()}.tiling.json`, writeTiling(name, unit));
	}

	/** Takes a tiling from a file in as a further one, and answers its id. */
	bringIn(text: string): string | undefined {
		try {
			const { name, unit } = readTiling(text);
			const tiling = { ...named(this.work.project, name), unit };
			this.error = this.work.editor.commit(
				'Bring in tiling',
				this.work.face.onFace((face, draft) => useTiling(draft, face, tiling))
			);
			return this.error ? undefined : tiling.id;
		} catch (cause) {
			this.error = messageOf(cause);
			return undefined;
		}
	}

	/** Removes the whole tiling and closes its unit; its faces become rectangular. */
	removeTiling(): void {
		this.error = this.work.editor.commit('Remove tiling', (draft) => removeTiling(draft, this.id));
		if (!this.error) this.work.unitEdit = undefined;
	}
}

const near = (a: UnitPoint, b: UnitPoint) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6;
