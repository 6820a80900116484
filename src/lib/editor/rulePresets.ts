import type { Condition } from '../../core/placement/rules/schema.ts';
import type { Project } from '../../core/project/schema.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { addFieldTo } from './fields.ts';
import { addRule, rulesOn, setRuleValue } from './placement.ts';

/** A common intent for the cells of a face, as rules. */
export interface RulePreset {
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

export const RULE_PRESETS: readonly RulePreset[] = [
	{
		label: 'Inside and border',
		meaning: 'Another kit on all cells at the border of the face',
		apply: otherWhere(() => [{ kind: 'border', state: 'border', within: 0 }])
	},
	{
		label: 'Small ones plain',
		meaning: 'Another kit on cells with less than half of the mean area',
		apply: otherWhere((face) => {
			const [least, greatest] = face.ranges.area;
			return [{ kind: 'reading', reading: 'area', to: Math.round((least + greatest) / 4) }];
		})
	},
	{
		label: 'Cut ones by another kit',
		meaning: 'Another kit on cells that openings or borders have cut',
		apply: otherWhere(() => [{ kind: 'border', state: 'cut', within: 0 }])
	},
	{
		label: 'Alternate',
		meaning: 'Two kits by turns, as on a chessboard',
		apply: otherWhere(() => [{ kind: 'checker', odd: false }])
	},
	{
		label: 'Every third column open',
		meaning: 'Nothing in every third column',
		apply: (draft, set, { key }) =>
			addRule(draft, { set, faces: [key], kit: null, where: [{ kind: 'lines', of: 'column', from: 3, every: 3 }] })
	},
	{
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
	}
];
