import { untrack } from 'svelte';
import type { ReadingDefinition } from '../../core/readings/definition.ts';
import { READINGS, type Reading, type ReadingName } from '../../core/readings/faceReadings.ts';
import { histogram, spreadOf, type Spread } from '../../core/readings/spread.ts';
import type { NearAndFar } from '../../core/project/coarseCells.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import { classesOf, colourScale, type ColourLook, type ColourScale } from './colourScale.ts';
import type { ModelClient } from '../worker/client.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';

/** A face with its values, which may be of an earlier model. */
interface ReadFace {
	readonly index: number;
	readonly face: FaceView;
	readonly values: Float32Array;
}

/** Bars of the histogram of a reading without kinds or steps. */
const BARS = 40;

/** Readings that have a middle of their own. */
const DIVERGES: readonly string[] = [
	'cell.gaussian',
	'cell.mean',
	'node.defect',
	'cell.normalX',
	'cell.normalY',
	'cell.normalZ'
];

/** Which reading is looked at, how it colours the views, and its values. */
export class ReadingState {
	name = $state<ReadingName>('cell.warp');
	/** The views are coloured by it. */
	coloured = $state(false);
	/** The chosen face alone, or all that are shown. */
	scope = $state<'face' | 'all'>('face');
	/** Limits of the scale that were set by hand; the values' own where not. */
	from = $state<number>();
	to = $state<number>();
	steps = $state(0);
	look = $state<ColourLook>('even');
	greatestFirst = $state(true);
	/** When the reference was kept, in words; nothing without one. */
	referenceName = $state<string>();
	meshes = $state.raw<{ readonly view: ModelView; readonly meshes: readonly NearAndFar[] }>();

	private found = $state.raw<{
		readonly name: ReadingName;
		readonly view: ModelView;
		readonly columns: readonly Float32Array[];
	}>();
	private before = $state.raw<{
		readonly name: ReadingName;
		readonly keys: readonly string[];
		readonly columns: readonly Float32Array[];
	}>();
	private readonly runner: ModelRunner;
	private readonly chosenKey: () => string | undefined;
	/** What is on its way: who asks the same meanwhile waits for the same answer. */
	private readonly asking: Record<string, { readonly view: ModelView; readonly answer: Promise<void> } | undefined> =
		{};

	constructor(runner: ModelRunner, chosenKey: () => string | undefined) {
		this.runner = runner;
		this.chosenKey = chosenKey;
	}

	get reading(): Reading {
		return READINGS[this.name];
	}

	/** Chooses a reading; limits and looks start anew. */
	choose(name: ReadingName): void {
		this.name = name;
		this.from = this.to = undefined;
		this.look = DIVERGES.includes(name) ? 'diverging' : 'even';
	}

	/** The faces that are looked at, with their values; none while these are on their way. */
	readonly faces = $derived.by((): readonly ReadFace[] => {
		const { found } = this;
		if (!found || found.name !== this.name) return [];
		return found.view.faces.flatMap((face, index) =>
			this.inScope(face.key) && !face.hidden ? [{ index, face, values: found.columns[index]! }] : []
		);
	});

	readonly spread: Spread = $derived(spreadOf(this.faces.map((f) => f.values)));

	private readonly referenceColumns = $derived.by((): readonly Float32Array[] | undefined => {
		const { before } = this;
		if (!before || before.name !== this.name) return undefined;
		return before.columns.filter((_, k) => this.inScope(before.keys[k]!));
	});

	readonly referenceSpread: Spread | undefined = $derived(this.referenceColumns && spreadOf(this.referenceColumns));

	/** Words for the classes, of the roles of all faces in view where it is those. */
	private readonly kinds = $derived.by((): readonly string[] | undefined => {
		const { kinds } = this.reading as ReadingDefinition;
		if (!kinds) return undefined;
		if (kinds.length) return kinds;
		const roles = this.faces.map(({ face }) => face.roles ?? ['panel']);
		// Faces with tilings of their own have roles of their own, counted alike.
		const names = (k: number) => roles.flatMap((r) => r[k] ?? []);
		return Array.from({ length: Math.max(1, ...roles.map((r) => r.length)) }, (_, k) =>
			names(k)
				.filter((name, i, all) => all.indexOf(name) === i)
				.join(' or ')
		);
	});

	readonly scale: ColourScale = $derived.by(() => {
		const { spread } = this;
		// What goes around has its whole turn.
		const whole = this.reading.cyclic ? { least: 0, greatest: 2 * Math.PI } : spread;
		let [from, to] = [this.from ?? whole.least, this.to ?? whole.greatest];
		// A diverging scale is as long to both sides of nothing, where its limits are not set.
		if (this.look === 'diverging' && this.from === undefined && this.to === undefined) {
			to = Math.max(Math.abs(from), Math.abs(to));
			from = -to;
		}
		return colourScale(this.reading, this.look, from, to, this.steps, this.kinds);
	});

	/** Classes of the hosts, for each of the faces. */
	readonly classes: readonly Uint8Array[] = $derived(this.faces.map(({ values }) => classesOf(values, this.scale)));

	get bars(): number {
		return this.scale.kinds?.length ?? (this.steps || BARS);
	}

	readonly counts: Uint32Array = $derived(
		histogram(
			this.faces.map((f) => f.values),
			this.scale.from,
			this.scale.to,
			this.bars
		)
	);
	readonly referenceCounts: Uint32Array | undefined = $derived(
		this.referenceColumns && histogram(this.referenceColumns, this.scale.from, this.scale.to, this.bars)
	);

	/** Asks the worker for the values of the model in view, of faces that have changed; answers of another model are dropped. */
	refresh(view: ModelView, name: ReadingName): Promise<void> {
		return this.once(name, view, () => this.askValues(view, name));
	}

	private async askValues(view: ModelView, name: ReadingName): Promise<void> {
		// What is known is no reason to ask again.
		const found = untrack(() => this.found);
		const columns = await this.byFace(
			view,
			found?.name === name ? found.view.faces.map((f, k) => [f, found.columns[k]!]) : [],
			(api, hashes) => api.columns(name, hashes)
		);
		if (!columns || this.runner.view !== view || this.name !== name) return;
		this.found = { name, view, columns };
		if (!this.referenceName || this.before?.name === name) return;
		await this.refreshReference();
	}

	/** Asks the worker for the triangles of the cells of the model in view, of faces that have changed. */
	refreshMeshes(view: ModelView): Promise<void> {
		return this.once('meshes', view, () => this.askMeshes(view));
	}

	private async askMeshes(view: ModelView): Promise<void> {
		const there = untrack(() => this.meshes);
		const known = there?.view.faces.map((f, k) => [f, there.meshes[k]!] as const) ?? [];
		const meshes = await this.byFace(view, known, (api, hashes) => api.meshes(hashes));
		if (meshes && this.runner.view === view) this.meshes = { view, meshes };
	}

	private once(what: string, view: ModelView, ask: () => Promise<void>): Promise<void> {
		const there = this.asking[what];
		if (there?.view === view) return there.answer;
		const answer = ask().finally(() => {
			if (this.asking[what]?.answer === answer) this.asking[what] = undefined;
		});
		this.asking[what] = { view, answer };
		return answer;
	}

	/** Something for each face of a view: what is known by the face's hash, and what the worker answers for the others. */
	private async byFace<T>(
		view: ModelView,
		known: readonly (readonly [FaceView, T])[],
		question: (api: ModelClient, hashes: readonly string[]) => Promise<readonly (T | undefined)[]>
	): Promise<T[] | undefined> {
		const there: Readonly<Record<string, T>> = Object.fromEntries(known.map(([face, value]) => [face.hash, value]));
		const missing = view.faces.map((f) => f.hash).filter((hash) => !(hash in there));
		const found = missing.length ? await this.runner.ask((api) => question(api, missing)) : [];
		const all = view.faces.flatMap(({ hash }) => there[hash] ?? found?.[missing.indexOf(hash)] ?? []);
		return all.length === view.faces.length ? (all as T[]) : undefined;
	}

	/** Keeps the present state, to compare later ones with. */
	async keepReference(name: string): Promise<void> {
		await this.runner.ask((api) => api.keepReference());
		this.referenceName = name;
		await this.refreshReference();
	}

	private async refreshReference(): Promise<void> {
		const { name } = this;
		const before = await this.runner.ask((api) => api.referenceColumns(name));
		if (before && this.referenceName) this.before = { name, ...before };
	}

	dropReference(): void {
		this.referenceName = this.before = undefined;
		void this.runner.ask((api) => api.dropReference());
	}

	/** An edit that leaves the same face chosen makes nothing anew. */
	private readonly chosen = $derived.by(() => this.chosenKey());

	private inScope(key: string): boolean {
		return this.scope === 'all' || key === this.chosen;
	}
}
