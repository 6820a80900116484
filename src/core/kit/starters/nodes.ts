import type { KitInput } from '../schema.ts';
import { length, material, steps } from './fields.ts';

/** The node itself, what lies around it, and a point behind the face. */
const BEHIND = steps(
	{ kind: 'outline', name: 'around' },
	{ kind: 'corner', name: 'node', corner: 0 },
	{ kind: 'lift', name: 'hub', of: 'node', distance: 'behind', towards: 'inside' }
);
const behind = length('behind', 'Behind the face', 60, -2000, 2000, { help: 'Of its middle' });

const ARM_PLATE: KitInput = {
	id: 'arm-plate',
	name: 'Plate with arms',
	help: 'A plate at every node, cut in one piece, with an arm turned to each bar',
	host: { kind: 'node', section: 'disc' },
	parameters: [
		length('disc', 'Full middle', 120, 0, 2000, { help: 'Diameter that stays full between the arms' }),
		length('reach', 'Reach', 180, 10, 3000, { help: 'From the node to the end of an arm' }),
		length('arm', 'Arm width', 60, 5, 1000),
		length('plate', 'Plate thickness', 15, 1, 200),
		behind,
		material('finish', 'Material', 'steel')
	],
	steps: [
		...BEHIND,
		{ kind: 'star', name: 'shape', at: 'hub', of: 'around', radius: 'reach', width: 'arm', inner: 'disc / 2' },
		{
			kind: 'plate',
			name: 'plates',
			role: 'connector',
			material: 'finish',
			outline: 'shape',
			thickness: 'plate',
			side: 'both'
		}
	]
};

const SLOTTED_HUB: KitInput = {
	id: 'slotted-hub',
	name: 'Hub with slots',
	help: 'A round hub at every node, square to the face, with a slot for the blade of each bar',
	host: { kind: 'node', section: 'diameter' },
	parameters: [
		length('diameter', 'Diameter', 140, 20, 2000),
		length('height', 'Height', 160, 5, 3000),
		length('slot', 'Slot width', 14, 1, 300),
		length('core', 'Solid core', 60, 5, 2000, { help: 'Diameter that slots do not reach' }),
		behind,
		material('finish', 'Material', 'steel')
	],
	steps: [
		...BEHIND,
		{
			kind: 'star',
			name: 'shape',
			at: 'hub',
			of: 'around',
			shape: 'slots',
			radius: 'diameter / 2',
			width: 'slot',
			inner: 'core / 2'
		},
		{
			kind: 'plate',
			name: 'hubs',
			role: 'connector',
			material: 'finish',
			outline: 'shape',
			thickness: 'height',
			side: 'both'
		}
	]
};

/** Node pieces that know the bars that they hold. */
export const NODE_KITS = [ARM_PLATE, SLOTTED_HUB];
