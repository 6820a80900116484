import type { Condition, RuleSet } from '../../core/placement/rules/schema.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { addFieldTo } from './fields.ts';
import { addRule, leaveToEarlier, rulesOn, setRuleValue } from './placement.ts';
import { faceKey, type Project } from '../../core/project/schema.ts';

/** A common intent, as rules. */
export interface RulePreset {
	/** What it is for. */
	readonly hosts: readonly RuleSet['host'][];
	readonly label: string;
	readonly meaning: string;
	/** Adds the rules; answers the id of the one to open. Throws an Error in the user's words where it cannot. */
	readonly apply: (draft: Project, set: string, face: FaceView) => string;
}

/** The kit that stands where no other rule holds, and another one for cells beside it. */
function kitsFor(draft: Project, set: string, face: FaceView): { readonly main: string; readonly other: string } {
	const cells = draft.kits.filter((k) => k.host.kind === 'cell');
	const main = rulesOn(draft, set, face.key).find((r) => r.where.length === 0 && r.kit)?.kit ?? cells[0]?.id;
	if (!main) throw new Error('There is no kit for cells yet; add one first.');
	const other = cells.find((k) => k.id === 'flat-pane' && k.id !== main) ?? cells.find((k) => k.id !== main);
	if (!other) throw new Error('There is only one kit for cells; add another one first.');
	return { main, other: other.id };
}

const otherWhere =
	(where: (face: FaceView) => Condition[]): RulePreset['apply'] =>
	(draft, set, face) =>
		addRule(draft, { set, faces: [face.key], kit: kitsFor(draft, set, face).other, where: where(face) });

const CELLS = ['cell'] as const;

/** Where rules of a set stand, so that a common border is looked at from both sides; the face itself where they stand nowhere. */
function facesWith(draft: Project, set: string, { key }: FaceView): string[] {
	const all = draft.masses.flatMap((mass) => mass.faces.map((face) => faceKey(mass, face)));
	const found = all.filter((face) => rulesOn(draft, set, face).length > 0);
	return found.length ? found : [key];
}

export const RULE_PRESETS: readonly RulePreset[] = [
	{
		hosts: CELLS,
		label: 'Inside and border',
		meaning: 'Another kit on all cells at the border of the face',
		apply: otherWhere(() => [{ kind: 'border', state: 'border', within: 0 }])
	},
	{
		hosts: CELLS,
		label: 'Small ones plain',
		meaning: 'Another kit on cells with less than half of the mean area',
		apply: otherWhere((face) => {
			const [least, greatest] = face.ranges.area;
			return [{ kind: 'reading', reading: 'area', to: Math.round((least + greatest) / 4) }];
		})
	},
	{
		hosts: CELLS,
		label: 'Cut ones by another kit',
		meaning: 'Another kit on cells that openings or borders have cut',
		apply: otherWhere(() => [{ kind: 'border', state: 'cut', within: 0 }])
	},
	{
		hosts: CELLS,
		label: 'Alternate',
		meaning: 'Two kits by turns, as on a chessboard',
		apply: otherWhere(() => [{ kind: 'checker', odd: false }])
	},
	{
		hosts: CELLS,
		label: 'Every third column open',
		meaning: 'Nothing in every third column',
		apply: (draft, set, { key }) =>
			addRule(draft, { set, faces: [key], kit: null, where: [{ kind: 'lines', of: 'column', from: 3, every: 3 }] })
	},
	{
		hosts: CELLS,
		label: 'Graded along the face',
		meaning: 'The first size of the kit changes from the start border to the end border',
		apply: (draft, set, face) => {
			const rule = rulesOn(draft, set, face.key).find((r) => r.where.length === 0 && r.kit);
			const kit = draft.kits.find((k) => k.id === rule?.kit);
			const sized =
				kit?.parameters.find((p) => p.quantity === 'ratio') ?? kit?.parameters.find((p) => p.quantity === 'length');
			if (!rule || !sized || !('least' in sized)) throw new Error('Place a kit with a size on all other cells first.');
			const field = addFieldTo(draft, { kind: 'along', way: 'across' }, `Along ${face.name.split(' › ').at(-1)}`);
			setRuleValue(draft, rule.id, sized.name, {
				kind: 'field',
				field,
				from: sized.default,
				to: (sized.default + sized.greatest) / 2
			});
			return rule.id;
		}
	},
	{
		hosts: ['edge', 'node', 'path'],
		label: 'Once where faces meet',
		meaning: 'What two faces have on their common border stands on the earlier one of them alone',
		apply: (draft, set, face) => leaveToEarlier(draft, set, facesWith(draft, set, face))
	},
	{
		hosts: ['edge'],
		label: 'Corner posts',
		meaning: 'Bars twice as wide where two faces meet, once',
		apply: (draft, set, face) => {
			const edges = draft.kits.filter((k) => k.host.kind === 'edge');
			const main = rulesOn(draft, set, face.key).find((r) => r.where.length === 0 && r.kit)?.kit ?? edges[0]?.id;
			const kit = draft.kits.find((k) => k.id === main);
			if (!kit) throw new Error('There is no kit for edges yet; add one first.');
			const faces = facesWith(draft, set, face);
			leaveToEarlier(draft, set, faces);
			const name = kit.host.kind === 'edge' ? kit.host.section : undefined;
			const section = kit.parameters.find((p) => p.name === name);
			return addRule(draft, {
				set,
				faces,
				kit: kit.id,
				where: [{ kind: 'border', state: 'face', within: 0 }],
				values:
					section && 'greatest' in section ? { [section.name]: Math.min(2 * section.default, section.greatest) } : {}
			});
		}
	}
];
