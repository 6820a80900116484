import type { Kit } from './schema.ts';

const cellHost = { kind: 'cell', leastCorners: 3, greatestCorners: 64 } as const;

export const FLAT_PANE: Kit = {
	id: 'flat-pane',
	name: 'Flat pane',
	version: 1,
	host: cellHost,
	parameters: [
		{
			name: 'joint',
			label: 'Joint',
			quantity: 'length',
			default: 10,
			least: 0,
			greatest: 200,
			help: 'Half of the gap between two panes'
		},
		{
			name: 'paneThickness',
			label: 'Pane thickness',
			quantity: 'length',
			default: 12,
			least: 1,
			greatest: 200,
			help: 'Solid glass; two panes of 6 mm weigh as much as one of 12 mm'
		}
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		{
			kind: 'sheet',
			name: 'pane',
			role: 'pane',
			material: 'glass',
			outline: 'rim',
			thickness: 'paneThickness',
			scheduled: true
		}
	]
};

export const FRAMED_PANE: Kit = {
	id: 'framed-pane',
	name: 'Framed pane',
	version: 1,
	host: cellHost,
	parameters: [
		{
			name: 'frameWidth',
			label: 'Frame width',
			quantity: 'length',
			default: 90,
			least: 1,
			greatest: 2000,
			help: 'Seen width of the frame, square to each edge'
		},
		{
			name: 'recess',
			label: 'Recess',
			quantity: 'length',
			default: 120,
			least: 0,
			greatest: 2000,
			help: 'How far the pane sits behind the frame'
		},
		{
			name: 'frameThickness',
			label: 'Frame sheet',
			quantity: 'length',
			default: 3,
			least: 0.5,
			greatest: 50,
			help: 'Thickness of the folded sheet that makes frame and reveal'
		},
		{
			name: 'paneThickness',
			label: 'Pane thickness',
			quantity: 'length',
			default: 12,
			least: 1,
			greatest: 200,
			help: 'Solid glass; two panes of 6 mm weigh as much as one of 12 mm'
		}
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'inner', of: 'outline', distance: 'frameWidth' },
		{ kind: 'lift', name: 'sunk', of: 'inner', distance: 'recess', towards: 'inside' },
		{
			kind: 'sheet',
			name: 'frame',
			role: 'frame',
			material: 'aluminium',
			outline: 'outline',
			hole: 'inner',
			thickness: 'frameThickness',
			scheduled: true
		},
		{
			kind: 'ribbon',
			name: 'reveal',
			role: 'reveal',
			material: 'aluminium',
			from: 'inner',
			to: 'sunk',
			thickness: 'frameThickness',
			scheduled: true
		},
		{
			kind: 'sheet',
			name: 'pane',
			role: 'pane',
			material: 'glass',
			outline: 'sunk',
			thickness: 'paneThickness',
			scheduled: true
		}
	]
};

/** The kits that a new project starts with. */
export const STARTER_KITS: readonly Kit[] = [FLAT_PANE, FRAMED_PANE];
