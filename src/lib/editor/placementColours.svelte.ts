import { plainWords, whereInWords } from '../../core/placement/rules/sentence.ts';
import { namesOf } from '../../core/project/ruleNames.ts';
import { classOf } from '../../core/readings/spread.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { CellAddress } from '../stage/spaceView.ts';
import { colourScale } from './colourScale.ts';
import { rulesOn } from './placement.ts';
import { classesByKit, classesByRule, type Classes } from './placementState.svelte.ts';
import type { Workspace } from './workspace.svelte.ts';

const FIELD_SCALE = colourScale({}, 'even', 0, 1, 0);

/** What needs to be known of the workspace. */
type Looked = Pick<Workspace, 'project' | 'runner' | 'face' | 'placement' | 'place' | 'drawer' | 'issues'>;

/** The cells of the shown faces coloured by rule, kit or field where kits are placed, or by what has changed. */
export class PlacementColours {
	private readonly work: Looked;

	constructor(work: Looked) {
		this.work = work;
	}

	/** What the cells are coloured by now. */
	readonly by = $derived.by(() => {
		const { place, placement, drawer, issues } = this.work;
		if (drawer === 'changes' && issues.coloured && issues.found) return 'changes';
		return place === 'placement' ? placement.colours : 'none';
	});
	readonly faces: readonly FaceView[] = $derived.by(() => this.work.runner.view?.faces.filter((f) => !f.hidden) ?? []);

	/** Rules as the legend has them: numbered as on the list of the chosen face. */
	private readonly words = $derived.by(() => {
		const { project, face } = this.work;
		const key = face.current?.key;
		return Object.fromEntries(
			project.sets.flatMap((set) => {
				const names = namesOf(project, set);
				return (key === undefined ? [] : rulesOn(project, set.id, key)).map((rule, k) => {
					const words = rule.name ?? plainWords(whereInWords(rule.where, names));
					return [rule.id, { label: `${k + 1} ${words}`, open: rule.kit === null }] as const;
				});
			})
		);
	});

	/** Classes by face, in the order of `faces`; nothing where cells are not coloured here, or values are on their way. */
	readonly classes: Classes | undefined = $derived.by(() => {
		const { placement, face, runner } = this.work;
		if (this.by === 'changes') return this.work.issues.classesOf(this.faces);
		if (this.by === 'rule') return classesByRule(this.faces, face.view, placement.set, this.words);
		if (this.by === 'kit') return classesByKit(this.faces);
		const { values } = placement;
		const { view } = runner;
		if (this.by !== 'field' || !values || !view || values.view !== view || values.field !== placement.field)
			return undefined;
		const classes = this.faces.map((f) => {
			const shares = values.faces[view.faces.indexOf(f)]?.shares ?? new Float32Array();
			return Uint8Array.from({ length: f.cellCount }, (_, c) =>
				classOf(shares[c] ?? 0, 0, 1, FIELD_SCALE.palette.length)
			);
		});
		return { classes, legend: [] };
	});

	readonly palette: readonly string[] = $derived.by(() =>
		this.by === 'field' ? FIELD_SCALE.palette : (this.classes?.legend.map((c) => c.colour) ?? [])
	);

	get title(): string {
		if (this.by === 'changes') return 'What has changed';
		return this.by === 'rule' ? `By rule, ${this.work.face.current?.face.name ?? ''}` : 'By kit';
	}

	/** The cells of a class of the legend: of rules those of the chosen face. */
	cellsOf(k: number): CellAddress[] {
		const { view } = this.work.runner;
		const { classes } = this;
		if (!view || !classes) return [];
		return this.faces.flatMap((face, f) =>
			this.by === 'rule' && face !== this.work.face.view
				? []
				: Array.from(classes.classes[f]!, (at, cell) => ({ at, cell, face: view.faces.indexOf(face) })).filter(
						(c) => c.at === k
					)
		);
	}
}
