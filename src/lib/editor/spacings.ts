import type { LaidFigures } from '../../core/settingout/laidFigures.ts';
import type { DirectionName } from '../../core/settingout/directions.ts';
import type { Spacing, SpacingKind } from '../../core/settingout/spacing.ts';

/** The kinds of spacing in the order of the form, each with what it does. */
export const SPACINGS: Readonly<Record<SpacingKind, { readonly label: string; readonly help: string }>> = {
	count: { label: 'Count', help: 'So many equal divisions' },
	module: { label: 'Module', help: 'Whole modules of one width; what is left over goes where you say' },
	'at-most': { label: 'Module at most', help: 'As few equal modules as are no wider than this' },
	list: { label: 'List', help: 'Widths one after the other' },
	levels: { label: 'At levels', help: 'Where levels cut the face, with even divisions between two levels' },
	planes: { label: 'At planes', help: 'Where parallel planes cut the face' },
	radial: { label: 'Around an axis', help: 'Where upright planes around an upright axis cut the face' },
	curve: { label: 'Through a line', help: 'Through evenly spaced points of a line drawn on the developed view' },
	off: { label: 'Undivided', help: 'No lines in this direction: strips' }
};
export const SPACING_KINDS = Object.keys(SPACINGS) as SpacingKind[];

/** Size that a module starts with, mm, where nothing tells a better one. */
const MODULE = 1500;
const EVERY_ANGLE = Math.PI / 12;

/** A spacing of a kind that comes near to what is there now. */
export function spacingOfKind(
	kind: SpacingKind,
	name: DirectionName,
	figures: LaidFigures | undefined,
	middle: readonly [number, number]
): Spacing {
	const module = Math.max(1, Math.round((figures?.modules?.[1] ?? MODULE) * 10) / 10);
	const count = figures?.count ?? 8;
	switch (kind) {
		case 'count':
			return { kind, count };
		case 'module':
			return { kind, module, remainder: 'both' };
		case 'at-most':
			return { kind, module };
		case 'list':
			return { kind, modules: [{ times: Math.max(1, count - 1), width: Math.floor(module) }], remainder: 'end' };
		case 'levels':
			return { kind, levels: [], divisions: 1 };
		case 'planes':
			return {
				kind,
				upright: name === 'across',
				bearing: Math.PI / 2,
				lay: { kind: 'every', first: 0, every: module }
			};
		case 'radial':
			return { kind, x: middle[0], y: middle[1], lay: { kind: 'every', first: 0, every: EVERY_ANGLE } };
		case 'curve':
			return { kind, points: [[0, 0], name === 'across' ? [1000, 0] : [0, 1000]], divisions: count };
		case 'off':
			return { kind };
	}
}
