import type { DrawnPath } from '../../core/placement/drawn/schema.ts';
import type { PRESETS } from '../../core/mass/presets.ts';
import { kindOf } from '../../core/mass/shapes.ts';
import type { Field } from '../../core/placement/fields/schema.ts';
import { faceKey, type Project } from '../../core/project/schema.ts';
import type { Detail } from '../stage/detail.ts';
import type { OverlayChoice } from '../stage/overlayLayer.ts';
import type { SpaceView } from '../stage/spaceView.ts';
import type { WarningView } from '../../core/view/modelView.ts';
import { BenchState } from './benchState.svelte.ts';
import { ChosenFace } from './chosenFace.svelte.ts';
import { FlatState } from './flatState.svelte.ts';
import { ImportState } from './importState.svelte.ts';
import { addMass, shiftMass } from './masses.ts';
import { FileLook } from './fileLook.svelte.ts';
import type { OrderBook } from './orders.svelte.ts';
import { IssueState } from './issues.svelte.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';
import type { Path } from './paths.ts';
import type { Place } from './places.ts';
import { OwnTableState } from './ownTableState.svelte.ts';
import { placeOnce } from './placement.ts';
import { PlacementColours } from './placementColours.svelte.ts';
import { PlacementState } from './placementState.svelte.ts';
import { ProjectEditor } from './projectEditor.svelte.ts';
import { copyOf, useTiling } from './ownTilings.ts';
import { ReadingState } from './readingState.svelte.ts';
import { RevisionState } from './revisionState.svelte.ts';
import { SheetState } from './sheetState.svelte.ts';
import { ScheduleState } from './scheduleState.svelte.ts';
import type { DrawingPlane } from './shapeForm.ts';
import { Selection } from './selection.svelte.ts';
import { UnitEdit } from './unitEdit.svelte.ts';

/** A line of a mass's shape that is drawn point by point. */
export interface Drawing {
	readonly mass: string;
	/** From the shape to the line. */
	readonly path: Path;
	readonly plane: DrawingPlane;
	readonly label: string;
	/** Only closed lines make sense there. */
	readonly closed: boolean;
}

/** Everything that the parts of the workspace share. */
export class Workspace {
	readonly editor: ProjectEditor;
	readonly runner: ModelRunner;
	/** The face that is worked on. */
	readonly face: ChosenFace;
	readonly selection = new Selection();
	readonly schedule: ScheduleState;
	readonly flat: FlatState;
	readonly readings: ReadingState;
	readonly placement: PlacementState;
	place = $state<Place>('mass');
	drawerOpen = $state(true);
	/** What the drawer shows. */
	drawer = $state<'tables' | 'own' | 'quantities' | 'types' | 'changes' | 'readings'>('tables');
	/** Schedules of the project's own. */
	readonly own: OwnTableState;
	/** Drawings on paper. */
	readonly sheets: SheetState;
	/** The file that is looked at before it is handed over. */
	readonly file: FileLook;
	/** The line that is being drawn, while one is. */
	drawing = $state.raw<Drawing>();
	/** The unit of an own tiling that is being edited, while one is. */
	unitEdit = $state.raw<UnitEdit>();
	/** A model file on its way in, while one is. */
	importing = $state.raw<ImportState>();
	/** How much of what stands on faces is drawn in the model. */
	detail = $state<Detail>('auto');
	/** What is shown of the chosen face’s grid. */
	overlay = $state.raw<OverlayChoice>({
		nodes: false,
		corners: false,
		numbers: false,
		curves: false,
		marks: false,
		normals: false,
		boxes: false
	});
	/** The cells as they are coloured where kits are placed. */
	readonly colours: PlacementColours = new PlacementColours(this);
	/** Where kits are made and tried. */
	readonly bench: BenchState = new BenchState(this);
	/** The states that the project has had. */
	readonly revisions: RevisionState;
	/** Those of them that were given out. */
	readonly issues: IssueState;
	/** The 3D view, while it stands. */
	space = $state.raw<SpaceView>();

	constructor(editor: ProjectEditor, runner: ModelRunner) {
		this.editor = editor;
		this.runner = runner;
		this.face = new ChosenFace(editor, runner);
		this.schedule = new ScheduleState(runner, () => this.project.materials);
		this.flat = new FlatState(runner);
		this.readings = new ReadingState(runner, () => this.face.current?.key);
		this.placement = new PlacementState(runner);
		this.own = new OwnTableState(runner, () => this.project.tables);
		this.sheets = new SheetState(runner, () => this.project.handover.sheets);
		this.file = new FileLook(runner);
		this.revisions = new RevisionState(editor);
		this.issues = new IssueState(editor, this.runner);
	}

	/** Files that were ordered. */
	get orders(): OrderBook {
		return this.editor.orders;
	}

	get project(): Project {
		return this.editor.document;
	}

	/** The path that is open. */
	get openPath(): DrawnPath | undefined {
		return this.place === 'placement' ? this.project.paths.find((p) => p.id === this.placement.path) : undefined;
	}

	/** The field that is open. */
	get openField(): Field | undefined {
		return this.place === 'placement' ? this.project.fields.find((f) => f.id === this.placement.field) : undefined;
	}

	/** The same, where it is one that is painted by hand. */
	get paintedField(): Field | undefined {
		return this.openField?.source.kind === 'painted' ? this.openField : undefined;
	}

	get warnings(): readonly WarningView[] {
		return this.runner.view?.warnings ?? [];
	}

	/** Adds a mass of a kind and chooses it. */
	addMass(kind: keyof typeof PRESETS): void {
		let key = '';
		const error = this.editor.commit(
			`Add ${kindOf({ kind }).label.toLowerCase()}`,
			(draft) => (key = addMass(draft, kind))
		);
		if (error) return void (this.editor.notice = error);
		this.face.chosen = key;
		this.place = 'mass';
	}

	/** Opens the pane where model files come in. */
	bringIn(): void {
		this.drawing = undefined;
		this.importing?.stop();
		this.importing = new ImportState();
		this.place = 'mass';
	}

	/** Opens the unit of an own tiling, that of the chosen face when none is named. */
	editTiling(id?: string): void {
		const tiling = this.face.current?.face.tiling;
		const wanted = id ?? (tiling?.kind === 'own' ? tiling.tiling : undefined);
		if (wanted) this.unitEdit = new UnitEdit(this, wanted);
	}

	/** Lets the counts of a face go up to multiples that its tiling fits. */
	fitCounts(key: string, multiples: { readonly across: number; readonly up: number }): void {
		const error = this.editor.commit('Fit the counts to the tiling', (draft) => {
			const face = draft.masses
				.flatMap((m) => m.faces.map((f) => [faceKey(m, f), f] as const))
				.find(([k]) => k === key)?.[1];
			for (const name of ['across', 'up'] as const)
				if (face && multiples[name] > 1) face.settingOut[name].multiple = multiples[name];
		});
		if (error) this.editor.notice = error;
	}

	/** Moves a mass one place on in the list (`by` 1) or back (-1), where there is one. */
	moveMass(m: number, by: 1 | -1): void {
		const { masses } = this.project;
		if (!masses[m + by]) return;
		const { id, name } = masses[m]!;
		this.editor.apply(`Move ${name} in the list`, (draft) => shiftMass(draft, id, by));
	}

	/** Leaves to the earlier face what rules have on a common border, in each of their sets. */
	placeOnce(ids: readonly string[]): void {
		const error = this.editor.commit('Place it once', (draft) => placeOnce(draft, ids));
		if (error) this.editor.notice = error;
	}

	/** Makes an own tiling from that of the chosen face, and opens its unit. */
	copyTiling(): void {
		const { face } = this.face.current!;
		const tiling = copyOf(this.project, face.tiling);
		const error = this.editor.commit(
			'Make own tiling',
			this.face.onFaces((f, draft) => useTiling(draft, f, tiling))
		);
		if (error) this.editor.notice = error;
		else this.editTiling(tiling.id);
	}

	close(): void {
		this.importing?.stop();
		this.bench.close();
		this.runner.close();
		this.editor.close();
	}
}
