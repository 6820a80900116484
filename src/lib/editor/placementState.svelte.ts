import { untrack } from 'svelte';
import type { AssignedSet } from '../../core/placement/rules/assign.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { BaySize } from '../../core/kit/baySize.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import type { CellAddress } from '../stage/spaceView.ts';
import type { FieldView } from '../worker/faceAnswers.ts';
import { NO_CLASS } from './colourScale.ts';
import { cellsOfHosts } from './hosts.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';
import { partColour } from '../../core/drawing/partColours.ts';

/** What the picture is coloured by. */
export type PlacementColours = 'none' | 'rule' | 'kit' | 'field';

/** A colour of the legend, with the cells that have it. */
export interface ColourClass {
	readonly label: string;
	readonly colour: string;
	readonly count: number;
}

/** Where nothing stands. */
const OPEN = '#FFFFFF';
/** What no rule takes. */
const NONE = '#B4472E';

/** What is looked at where kits are placed. */
export class PlacementState {
	/** The rule that is open. */
	rule = $state<string>();
	/** The set whose rules colour the picture: the first on cells where none is chosen. */
	set = $state<string>();
	/** The field that is open. */
	field = $state<string>();
	/** The path that is open. */
	path = $state<string>();
	colours = $state<PlacementColours>('none');
	/** The open field on the faces of a view, as far as it is known. */
	values = $state.raw<{
		readonly field: string;
		readonly view: ModelView;
		readonly faces: readonly (FieldView | undefined)[];
	}>();
	private readonly runner: ModelRunner;

	constructor(runner: ModelRunner) {
		this.runner = runner;
	}

	/** Asks for the open field on all faces of a model. */
	async refresh(view: ModelView, field: string): Promise<void> {
		const faces = await this.runner.ask((api) =>
			api.field(
				field,
				view.faces.map((f) => f.hash)
			)
		);
		if (faces && this.runner.view === view && untrack(() => this.field) === field) this.values = { field, view, faces };
	}
}

/** The set of a face that colours its cells. */
export const cellSet = ({ sets }: FaceView, wanted: string | undefined): AssignedSet | undefined => {
	const ofCells = sets.filter((s) => s.host === 'cell');
	return ofCells.find((s) => s.set === wanted) ?? ofCells[0];
};

/** Hosts that a rule takes on the faces of a model, as the cells that they are or touch. */
export function cellsOfRule(view: ModelView, rule: string): CellAddress[] {
	return view.faces.flatMap((face, index) =>
		face.sets.flatMap((set) => {
			const r = set.rules.indexOf(rule);
			if (r < 0) return [];
			return cellsTouched(face, set, (h) => set.ruleOf[h] === r).map((cell) => ({ face: index, cell }));
		})
	);
}

/** Hosts that no rule of a set takes, in the same way. */
export function cellsLeft(view: ModelView, set: string, key: string): CellAddress[] {
	return view.faces.flatMap((face, index) =>
		face.key !== key
			? []
			: face.sets
					.filter((s) => s.set === set)
					.flatMap((s) => cellsTouched(face, s, (h) => s.ruleOf[h]! < 0).map((cell) => ({ face: index, cell })))
	);
}

function cellsTouched(face: FaceView, { host, bay }: AssignedSet, wanted: (h: number) => boolean): number[] {
	// Paths have no numbers here; their parts are chosen from the schedule.
	if (host === 'path') return [];
	if (host === 'bay') return cellsOfBays(face, bay!, wanted);
	const count = host === 'cell' ? face.cellCount : host === 'edge' ? face.edgeCount : face.nodes.length / 3;
	const hosts = Array.from({ length: count }, (_, h) => h).filter(wanted);
	return cellsOfHosts(face, host, hosts);
}

/** Bays are known by their first cells; the others belong to the one that their row and column lie in. */
function cellsOfBays({ cellCount, row, column }: FaceView, bay: BaySize, wanted: (first: number) => boolean): number[] {
	const place = (r: number, c: number) => r * 100_000 + c;
	const cells = Array.from({ length: cellCount }, (_, c) => c);
	const first = new Set(cells.filter(wanted).map((c) => place(row[c]!, column[c]!)));
	return cells.filter((c) => first.has(place(row[c]! - (row[c]! % bay.up), column[c]! - (column[c]! % bay.across))));
}

/** How many hosts a rule takes on some faces. */
export const takenBy = (faces: readonly FaceView[], rule: string): { taken: number; hidden: number } => {
	let [taken, hidden] = [0, 0];
	for (const { rules, ...set } of faces.flatMap((f) => f.sets)) {
		const r = rules.indexOf(rule);
		if (r < 0) continue;
		taken += set.taken[r]!;
		hidden += set.hidden[r]!;
	}
	return { taken, hidden };
};

/** Cells of faces in classes, with a legend whose places number the classes. */
export interface Classes {
	readonly classes: readonly Uint8Array[];
	readonly legend: readonly ColourClass[];
}

/** Classes are told by one byte, of which the last means none. */
const MOST_CLASSES = 250;

/** Colour of a rule by its place in its set, on the screen's list and in the picture alike. */
export const ruleColour = (k: number, open: boolean): string => (open ? OPEN : partColour(k));

/** By the rule that takes each cell of the chosen face, in the order of its list; other faces have no colour. */
export function classesByRule(
	faces: readonly FaceView[],
	chosen: FaceView | undefined,
	set: string | undefined,
	rules: Readonly<Record<string, { readonly label: string; readonly open: boolean }>>
): Classes {
	const own = chosen && cellSet(chosen, set);
	const most = Math.min(MOST_CLASSES, own?.rules.length ?? 0);
	const classes = faces.map((face) =>
		Uint8Array.from({ length: face.cellCount }, (_, c) => {
			if (face !== chosen || !own) return NO_CLASS;
			const r = own.ruleOf[c]!;
			return r < 0 ? most : Math.min(r, most);
		})
	);
	const legend = Array.from({ length: most }, (_, k): ColourClass => ({
		label: rules[own?.rules[k] ?? '']?.label ?? '',
		colour: ruleColour(k, rules[own?.rules[k] ?? '']?.open ?? false),
		count: own?.taken[k] ?? 0
	}));
	return { classes, legend: [...legend, { label: 'no rule', colour: NONE, count: own?.unassigned ?? 0 }] };
}

/** By the kits that stand on each cell. */
export function classesByKit(faces: readonly FaceView[]): Classes {
	const labels: string[] = ['nothing'];
	const counts = [0];
	const classes = faces.map((face) => {
		const { rowOf, words } = face.schedule.tables.panels;
		return Uint8Array.from({ length: face.cellCount }, (_, c) => {
			const row = rowOf[c]!;
			const label = row >= 0 ? words.kit!.words[words.kit!.index[row]!]! : 'nothing';
			const known = labels.indexOf(label);
			const at = Math.min(MOST_CLASSES, known < 0 ? labels.push(label) - 1 : known);
			counts[at] = (counts[at] ?? 0) + 1;
			return at;
		});
	});
	return {
		classes,
		legend: labels
			.slice(0, MOST_CLASSES + 1)
			.map((label, k) => ({ label, colour: k === 0 ? OPEN : partColour(k - 1), count: counts[k] ?? 0 }))
	};
}
