import { untrack } from 'svelte';
import type { NearAndFar } from '../../core/project/coarseCells.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { MOST_FOLLOWED } from '../../core/view/faceLines.ts';
import type { EarlyView, ModelView } from '../../core/view/modelView.ts';
import type { Colouring } from '../stage/colourLayer.ts';
import { byHash } from './byHash.ts';
import type { Workspace } from './workspace.svelte.ts';

/** What needs to be known of the workspace. */
type Looked = Pick<Workspace, 'place' | 'runner' | 'colours' | 'readings'>;

/**
 * The model in the picture with all that it is shown with. It gives way to the next one when that is whole, so that an edit is
 * drawn once, and nothing is shown without its colours in between.
 */
export class ModelPicture {
	view = $state.raw<ModelView>();
	/** Edges of the view as they follow their faces, by the hash of these lines, where they are to be seen. */
	private curves = $state.raw(byHash<Float32Array>());
	/** Cells as surfaces likewise, where parts are not drawn. */
	panes = $state.raw(byHash<NearAndFar>());
	/** Some parts are too small to be drawn. */
	wantsPanes = $state(false);
	private readonly work: Looked;
	/** Of cells that are not coloured while edges or nodes are. */
	private readonly plain: () => string;
	/** The colours of the picture, while the next one is on its way. */
	private last: Colouring | undefined;

	constructor(work: Looked, plain: () => string) {
		this.work = work;
		this.plain = plain;
	}

	/** Faces are shown as masses, without what stands on them. */
	readonly bare = $derived.by(() => this.work.place === 'mass');
	private readonly coloured = $derived.by(
		() => !this.bare && (this.work.colours.by !== 'none' || this.work.readings.coloured)
	);

	/** Faces that are seen before their model is there. */
	readonly early: EarlyView | undefined = $derived.by(() =>
		this.bare || !this.view ? this.work.runner.early?.view : undefined
	);

	/** Edges as they follow their faces, by the hash of these lines: of the view, and of faces that are seen before theirs. */
	readonly lines: ReadonlyMap<string, Float32Array> = $derived.by(() => {
		const early = this.work.runner.early?.view.lines ?? [];
		return byHash([
			...this.curves,
			...early.flatMap(({ hash, segments }) => (segments ? [[hash, segments] as const] : []))
		]);
	});

	/** Has faces shown before their model is there, where they are bare. An effect. */
	followPlace(): void {
		this.work.runner.bare = this.bare;
	}

	/** Brings the newest model into the picture, at once or as soon as what it is shown with has come. An effect: it is called again when that changes. */
	follow(): void {
		const { bare, coloured } = this;
		const { runner, readings, colours } = this.work;
		const made = runner.view;
		const asPanes = this.wantsPanes && !bare;
		if (!made || !(bare || coloured || asPanes)) return this.show(made);
		const known = untrack(() => this.lines);
		void Promise.all([
			(bare || coloured) && this.curvesOf(made, known),
			(coloured || asPanes) && readings.refreshMeshes(made),
			coloured && colours.by === 'none' && readings.refresh(made, readings.name)
		]).then(([curves]) => {
			if (runner.view !== made) return;
			if (curves) this.curves = curves;
			const { meshes } = readings;
			if (asPanes && meshes?.view === made)
				this.panes = byHash(made.faces.map((f, k) => [f.hash, meshes.meshes[k]!] as const));
			this.show(made);
		});
	}

	private show(made: ModelView | undefined): void {
		this.view = made;
		const { runner } = this.work;
		if (runner.early?.of === runner.made) runner.early = undefined;
	}

	/** The colours of cells, edges or nodes in the picture. */
	readonly colouring: Colouring | undefined = $derived.by(() => {
		if (this.view !== this.work.runner.view) return this.last;
		return (this.last = this.view && this.coloured ? this.coloursOf(this.view) : undefined);
	});

	private coloursOf(view: ModelView): Colouring | undefined {
		const { readings, colours } = this.work;
		if (readings.meshes?.view !== view) return undefined;
		const { meshes } = readings.meshes;
		const meshOf = (face: FaceView) => meshes[view.faces.indexOf(face)]!;
		const none = this.plain();
		const own = colours.classes?.classes;
		if (own) {
			const faces = colours.faces.map((face, k) => ({ face, mesh: meshOf(face), classes: own[k]! }));
			return { host: 'cell', faces, palette: colours.palette, none };
		}
		if (!readings.coloured) return undefined;
		const { classes } = readings;
		const faces = readings.faces
			.map(({ face }, k) => ({ face, classes: classes[k]! }))
			.filter(({ face }) => view.faces.includes(face))
			.map(({ face, classes: of }) => ({ face, mesh: meshOf(face), classes: of }));
		return faces.length ? { host: readings.reading.host, faces, palette: readings.scale.palette, none } : undefined;
	}

	private async curvesOf({ faces }: ModelView, known: ReadonlyMap<string, Float32Array>) {
		const found = await Promise.all(
			faces
				.filter((f) => !f.hidden && (f.edgeCount <= MOST_FOLLOWED || known.has(f.linesHash)))
				.map(
					async ({ hash, linesHash }) =>
						[linesHash, known.get(linesHash) ?? (await this.work.runner.ask((api) => api.curves(hash)))] as const
				)
		);
		return byHash(found.flatMap(([hash, lines]) => (lines ? [[hash, lines] as const] : [])));
	}
}
