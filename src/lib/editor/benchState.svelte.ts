import { messageOf } from '../../core/errors.ts';
import type { Form } from '../../core/kit/fields.ts';
import { shapeMade } from '../../core/kit/references.ts';
import type { Kit, Step } from '../../core/kit/schema.ts';
import { STEP_KINDS, type StepKindName } from '../../core/kit/stepKinds.ts';
import { shapeOfTrial, type TrialHost, type TrialPoint } from '../../core/kit/trialHosts.ts';
import type { GivenValues } from '../../core/kit/values.ts';
import { hostsFor, type LimitFault, type LimitReport } from '../../core/placement/limits.ts';
import { kitLibrary, kitsWithin } from '../../core/project/kitWorld.ts';
import type { Trial } from '../../core/placement/trial.ts';
import type { BenchWorld, WeighedPicture } from '../worker/bench.worker.ts';
import { benchLink, proxy } from '../worker/client.ts';
import { freeWord, newStep, renameInKit } from './kitSteps.ts';
import { closable } from './closable.ts';
import type { Workspace } from './workspace.svelte.ts';

/** A field of the chosen step that is filled from the picture. */
export interface Picking {
	readonly step: string;
	readonly field: string;
	readonly form: Extract<Form, { type: 'ref' }>;
}

/** Making and trying a kit: which one, on which host, what is chosen, and changes that can be undone. */
export class BenchState {
	/** Id of the kit on the bench. */
	chosen = $state('');
	/** Name of the step that is open. */
	step = $state<string>();
	/** The trial host, with corners as they have been dragged. */
	host = $state.raw<TrialHost>();
	/** Values that are tried instead of the defaults. */
	values = $state.raw<GivenValues>({});
	trial = $state.raw<Trial>();
	picking = $state.raw<Picking>();
	/** All lines and points are shown. */
	lines = $state(true);
	error = $state<string>();
	limits = $state.raw<LimitReport>();
	/** Share of the limits that have been tried, while they are. */
	trying = $state<number>();

	private readonly work: Workspace;
	private readonly link = benchLink((error) => (this.error = `${error.message} It has been started anew.`));
	private asked = 0;
	private busy = false;

	constructor(work: Workspace) {
		this.work = work;
	}

	get kit(): Kit | undefined {
		const { kits } = this.work.project;
		return kits.find((k) => k.id === this.chosen) ?? kits[0];
	}

	get k(): number {
		return this.work.project.kits.indexOf(this.kit!);
	}

	/** The steps that the trial host goes through. */
	get steps(): readonly Step[] {
		const { kit } = this;
		return this.list === undefined ? (kit?.steps ?? []) : kit!.variants[this.list]!.steps;
	}

	/** Index of the variant that serves the trial host. */
	get list(): number | undefined {
		const corners = this.shown && shapeOfTrial(this.shown).corners;
		const at = this.kit?.variants.findIndex((v) => corners !== undefined && v.corners.includes(corners)) ?? -1;
		return at < 0 ? undefined : at;
	}

	get hosts(): readonly TrialHost[] {
		return this.kit ? hostsFor(this.kit) : [];
	}

	/** The trial host: the chosen one where the kit fits it, else the first that it fits. */
	get shown(): TrialHost | undefined {
		const { host, kit } = this;
		if (
			host &&
			kit &&
			host.kind === kit.host.kind &&
			(host.id === 'project' || this.hosts.some((h) => h.id === host.id))
		)
			return host;
		return this.hosts[0];
	}

	choose(id: string): void {
		this.chosen = id;
		this.step = undefined;
		this.values = {};
		this.limits = undefined;
		this.picking = undefined;
		this.error = undefined;
		if (this.host?.kind !== this.kit?.host.kind) this.host = undefined;
	}

	/** Asks for a trial of what is shown now; the newest request wins. */
	request(): void {
		this.asked++;
		if (!this.busy) void this.run();
	}

	private async run(): Promise<void> {
		this.busy = true;
		try {
			for (let done = -1; done !== this.asked;) {
				done = this.asked;
				const { kit, shown } = this;
				if (!kit || !shown) return;
				this.trial = await this.link.ask((api) => api.run(kit, this.values, shown, this.world));
			}
		} catch (cause) {
			this.error = messageOf(cause);
		} finally {
			this.busy = false;
		}
	}

	/** Runs the kit over its limits, and shows what failed. */
	async tryLimits(): Promise<void> {
		const { kit, host } = this;
		if (!kit || this.trying !== undefined) return;
		this.trying = 0;
		// Progress comes over a port of its own, and may come after the report.
		const progress = closable((share: number) => (this.trying = share));
		try {
			const extra = host?.id === 'project' ? [host] : [];
			this.limits =
				(await this.link.ask((api) => api.limits(kit, extra, this.world, proxy(progress.hear)))) ?? this.limits;
		} catch (cause) {
			this.error = messageOf(cause);
		} finally {
			progress.close();
			this.trying = undefined;
		}
	}

	/** Small pictures of kits, by their texts: an edit makes all kits anew, most of them alike. */
	private readonly drawn: Record<string, Promise<WeighedPicture | undefined>> = {};

	/** A small picture of a kit of the project, or of one that is on offer. */
	picture(kit: Kit): Promise<WeighedPicture | undefined> {
		// With the kits within it, which show too.
		return (this.drawn[JSON.stringify(kitsWithin(kit, kitLibrary(this.work.project)))] ??= this.link
			.ask((api) => api.picture(kit, this.world))
			.catch(() => undefined));
	}

	private get world(): BenchWorld {
		const { kits, modules, materials } = this.work.project;
		return { kits, modules, materials };
	}

	stopLimits(): void {
		this.link.tell((api) => api.stop());
	}

	/** Shows a fault: its host, its values and its step. */
	showFault({ host, values, step }: LimitFault): void {
		this.host = host;
		this.values = values;
		const names = step.split(' › ');
		this.step = this.steps.find((s) => s.name === names.at(-1))?.name ?? names[0];
	}

	/** Takes a host of the chosen face: the chosen cell, or what is nearest to it. */
	async takeFromProject(): Promise<void> {
		const { kit } = this;
		const {
			runner,
			selection,
			face: { current }
		} = this.work;
		if (!kit || !current) return;
		const view = runner.view;
		const chosen = view && selection.addresses(view).find((c) => view.faces[c.face]?.key === current.key);
		try {
			const host = await runner.ask((api) => api.trialHost(current.key, kit.host, chosen?.cell ?? -1));
			if (!host) this.error = 'The chosen face has no host of this kind.';
			else [this.host, this.error] = [host, undefined];
		} catch (cause) {
			this.error = messageOf(cause);
		}
	}

	moveCorner(corner: number, way: TrialPoint, from: TrialHost): void {
		this.host = {
			...from,
			points: from.points.map((p, k) => (k === corner ? [p[0] + way[0], p[1] + way[1], p[2] + way[2]] : p))
		};
	}

	/** Accepts a change of the kit; one more version of it. */
	commit(label: string, change: (kit: Kit) => void): string | undefined {
		const { k } = this;
		this.error = this.work.editor.commit(label, (draft) => {
			const kit = draft.kits[k]!;
			change(kit);
			kit.version++;
		});
		return this.error;
	}

	private changeSteps(label: string, change: (steps: Step[]) => Step[]): string | undefined {
		const { list } = this;
		return this.commit(label, (kit) => {
			if (list === undefined) kit.steps = change(kit.steps);
			else kit.variants[list]!.steps = change(kit.variants[list]!.steps);
		});
	}

	add(kind: StepKindName): void {
		const { kit, work, steps } = this;
		if (!kit) return;
		const at = steps.findIndex((s) => s.name === this.step);
		const before = at < 0 ? steps : steps.slice(0, at + 1);
		let step: Step;
		try {
			step = newStep(kit, before, kind, {
				material: work.project.materials[0]?.id ?? '',
				kit: work.project.kits.find((k) => k.id !== kit.id)?.id ?? '',
				mesh: work.project.modules[0]?.id
			});
		} catch (cause) {
			return void (this.error = messageOf(cause));
		}
		const error = this.changeSteps(`Add step ${step.name}`, (all) =>
			all.toSpliced(at < 0 ? all.length : at + 1, 0, step)
		);
		if (!error) this.step = step.name;
		else this.error = `${STEP_KINDS[kind].label} cannot be added here: ${error}`;
	}

	/** Puts the steps in another order. */
	order(names: readonly string[]): void {
		if (names.join() === this.steps.map((s) => s.name).join()) return;
		this.changeSteps('Reorder steps', (all) => names.map((name) => all.find((s) => s.name === name)!));
	}

	/** Moves a step by so many places. */
	shift(name: string, by: number): void {
		const names = this.steps.map((s) => s.name);
		const at = names.indexOf(name);
		const to = Math.min(names.length - 1, Math.max(0, at + by));
		this.order(names.toSpliced(at, 1).toSpliced(to, 0, name));
	}

	duplicate(name: string): void {
		const step = this.steps.find((s) => s.name === name)!;
		const copy = { ...structuredClone(step), name: freeWord(this.kit!, name) };
		if (
			!this.changeSteps(`Duplicate ${name}`, (all) => all.toSpliced(all.findIndex((s) => s.name === name) + 1, 0, copy))
		)
			this.step = copy.name;
	}

	remove(name: string): void {
		if (this.steps.length === 1) return void (this.error = 'A kit has at least one step.');
		this.changeSteps(`Remove step ${name}`, (all) => all.filter((s) => s.name !== name));
	}

	toggle(name: string): void {
		const off = this.steps.find((s) => s.name === name)?.off;
		this.changeSteps(off ? `Switch ${name} on` : `Switch ${name} off`, (all) =>
			all.map((s) => (s.name === name ? withOff(s, !off) : s))
		);
	}

	rename(from: string, to: string): string | undefined {
		if (from === to) return undefined;
		const { kit } = this;
		if (kit && freeWord(kit, to) !== to) return `“${to}” is taken by another step or parameter`;
		const error = this.commit(`Rename ${from}`, (draft) => renameInKit(draft, from, to));
		if (!error && this.step === from) this.step = to;
		this.error = undefined;
		return error;
	}

	/** Sets a field of a step; without a value the field is left out. */
	setField(name: string, field: string, value: unknown): string | undefined {
		return this.changeSteps(`Change ${name}`, (all) =>
			all.map((s) => {
				if (s.name !== name) return s;
				const { [field]: _, ...others } = s as Record<string, unknown>;
				return (value === undefined ? others : { ...others, [field]: value }) as Step;
			})
		);
	}

	/** Fills the field that is being picked with a step of the picture. */
	pick(step: string): void {
		const { picking } = this;
		if (!picking) return void (this.step = this.steps.some((s) => s.name === step) ? step : this.step);
		const target = this.steps.find((s) => s.name === picking.step) as Record<string, unknown> | undefined;
		if (!target) return;
		const before = (target[picking.field] ?? []) as string[];
		this.setField(
			picking.step,
			picking.field,
			picking.form.many ? (before.includes(step) ? before.filter((s) => s !== step) : [...before, step]) : step
		);
		if (!picking.form.many) this.picking = undefined;
	}

	/** Steps that the field being picked can take. */
	get pickable(): readonly string[] {
		const { picking } = this;
		if (!picking) return [];
		const { on } = this.steps.find((s) => s.name === picking.step) ?? {};
		return this.steps
			.filter(
				(s) =>
					s.on === on &&
					s.name !== picking.step &&
					(picking.form.of as readonly string[]).includes(shapeMade(s, this.steps))
			)
			.map((s) => s.name);
	}

	close(): void {
		this.link.stop();
	}
}

function withOff(step: Step, off: boolean): Step {
	const { off: _, ...others } = step;
	return (off ? { ...others, off: true } : others) as Step;
}
