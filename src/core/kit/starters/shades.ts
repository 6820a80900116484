import type { KitInput } from '../schema.ts';
import { angle, cell, count, joint, length, material, wall, wallWithin } from './fields.ts';

const LOUVER_BANK: KitInput = {
	id: 'louver-bank',
	name: 'Louver bank',
	help: 'Blades in a frame; the free area and the angle from which the sun is kept out follow from their spacing, depth and tilt',
	host: cell(4, 4),
	parameters: [
		joint,
		length('spacing', 'Spacing at most', 180, 20, 2000, { group: 'Blades' }),
		length('bladeDepth', 'Depth', 200, 10, 1500, { group: 'Blades' }),
		length('bladeThickness', 'Thickness', 20, 1, 200, { group: 'Blades' }),
		angle('tilt', 'Tilt', 30, -89, 89, {
			group: 'Blades',
			help: '0° stands square to the face; the outer edge turns down'
		}),
		angle('twist', 'Twist', 0, -90, 90, { group: 'Blades', help: 'More tilt from one end of a blade to the other' }),
		length('frame', 'Frame width', 40, 5, 300, { group: 'Frame' }),
		wall(2, { help: 'Of blades and frame, which are hollow' }),
		material('finish', 'Material', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'axis', of: 'outline', distance: 'joint + frame / 2' },
		{ kind: 'inset', name: 'inner', of: 'outline', distance: 'joint + frame' },
		{
			kind: 'bar',
			name: 'frameBars',
			role: 'frame',
			material: 'finish',
			line: 'axis',
			profile: 'hollow',
			width: 'frame',
			depth: 'bladeDepth',
			wall: wallWithin('frame', 'bladeDepth')
		},
		{
			kind: 'blades',
			name: 'louvers',
			role: 'louver',
			material: 'finish',
			outline: 'inner',
			by: 'spacing',
			amount: 'spacing',
			profile: 'hollow',
			width: 'bladeThickness',
			depth: 'bladeDepth',
			wall: wallWithin('bladeThickness', 'bladeDepth'),
			tilt: 'tilt',
			twist: 'twist'
		},
		{ kind: 'side', name: 'edge', of: 'inner', side: 2 },
		{ kind: 'value', name: 'pitch', quantity: 'length', value: 'length(edge) / ceil(length(edge) / spacing)' },
		{
			kind: 'value',
			name: 'freeArea',
			quantity: 'ratio',
			value: 'max(0, 1 - (bladeDepth * sin(abs(tilt)) + bladeThickness * cos(tilt)) / pitch)'
		},
		{
			kind: 'value',
			name: 'cutOff',
			quantity: 'angle',
			value:
				'max(0 deg, atan2(pitch - bladeDepth * sin(tilt) - bladeThickness * cos(tilt), bladeDepth * cos(tilt) - bladeThickness * sin(tilt)))'
		}
	]
};

const FIN: KitInput = {
	id: 'vertical-fin',
	name: 'Vertical fin',
	help: 'A blade that stands on the upright edges',
	host: { kind: 'edge', edges: ['up', 'diagonal'] },
	parameters: [
		length('depth', 'Depth', 350, 10, 3000),
		length('thickness', 'Thickness', 30, 2, 300),
		angle('turn', 'Turn', 0, -80, 80, { help: 'About the edge' }),
		length('gap', 'Gap', 10, 0, 500, { help: 'Left free at each end' }),
		length('off', 'Off the face', 60, 0, 2000),
		material('finish', 'Material', 'timber')
	],
	steps: [
		{ kind: 'outline', name: 'edge' },
		{ kind: 'cut', name: 'run', of: 'edge', start: 'gap', end: 'gap' },
		{
			kind: 'bar',
			name: 'fin',
			role: 'fin',
			material: 'finish',
			line: 'run',
			width: 'thickness',
			depth: 'depth',
			lies: 'outside',
			out: 'off',
			turn: 'turn'
		}
	]
};

const EGG_CRATE: KitInput = {
	id: 'egg-crate',
	name: 'Egg-crate shade',
	help: 'Blades across and up through each other',
	host: cell(4, 4),
	parameters: [
		joint,
		count('across', 'Blades across', 5, 1, 60),
		count('up', 'Blades up', 4, 1, 60),
		length('depth', 'Depth', 150, 5, 2000),
		length('thickness', 'Thickness', 4, 1, 100),
		length('off', 'Off the face', 100, -2000, 2000),
		material('finish', 'Material', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		{
			kind: 'blades',
			name: 'crossing',
			role: 'louver',
			material: 'finish',
			outline: 'rim',
			amount: 'across',
			width: 'thickness',
			depth: 'depth',
			out: 'off'
		},
		{
			kind: 'blades',
			name: 'rising',
			role: 'louver',
			material: 'finish',
			outline: 'rim',
			run: 'up',
			amount: 'up',
			width: 'thickness',
			depth: 'depth',
			out: 'off'
		}
	]
};

/** Kits that keep the sun off. */
export const SHADES = [LOUVER_BANK, FIN, EGG_CRATE];
