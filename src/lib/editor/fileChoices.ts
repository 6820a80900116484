import { MESH_UNITS } from '../../core/formats/mesh/meshUnits.ts';
import { ROLES } from '../../core/kit/fields.ts';
import type { Format } from '../../core/formats/format.ts';
import { groupOf } from '../../core/formats/fileOptions.ts';
import { MAIN_CELL_READINGS } from '../../core/readings/cellReadings.ts';
import { TABLE_UNITS } from '../../core/units/tableUnits.ts';

/** Something that can be chosen for a file. */
export type FileChoice = { readonly name: string; readonly label: string; readonly help?: string } & (
	| { readonly kind: 'tick'; readonly usual: boolean }
	| {
			readonly kind: 'one';
			readonly usual: string;
			readonly of: readonly { readonly value: string; readonly text: string }[];
			/** Values are numbers. */
			readonly numeric?: boolean;
			/** Chosen by leaving it out. */
			readonly none?: string;
	  }
	| {
			readonly kind: 'several';
			readonly usual: readonly string[];
			readonly of: readonly { readonly value: string; readonly text: string }[];
	  }
	| { readonly kind: 'lengths'; readonly usual: readonly number[] }
	| { readonly kind: 'length'; readonly usual: number; readonly most: number }
);

const plain = (values: readonly string[]) => values.map((value) => ({ value, text: value }));
const SCALES = [10, 20, 25, 50, 100, 200, 250, 500];

/** By format, or by the name of files that are chosen for together. */
const CHOICES: Readonly<Record<string, readonly FileChoice[]>> = {
	schedules: [
		{
			kind: 'one',
			name: 'units',
			label: 'Lengths in',
			help: 'Of all schedules; areas follow',
			usual: 'mm',
			of: plain(TABLE_UNITS)
		}
	],
	meshes: [
		{
			kind: 'one',
			name: 'units',
			label: 'Lengths in',
			help: 'Of OBJ, STL and PLY',
			usual: 'mm',
			of: plain(Object.keys(MESH_UNITS))
		}
	],
	svg: [
		{
			kind: 'one',
			name: 'scale',
			label: 'Scale',
			usual: '100',
			numeric: true,
			of: SCALES.map((s) => ({ value: String(s), text: `1 : ${s}` }))
		}
	],
	cuts: [
		{
			kind: 'one',
			name: 'role',
			label: 'Pieces',
			help: 'Those of one role, or all that are thin',
			usual: '',
			none: '',
			of: [{ value: '', text: 'all thin ones' }, ...plain(ROLES)]
		}
	],
	cutlist: [
		{
			kind: 'lengths',
			name: 'lengths',
			label: 'Delivered mm',
			help: 'Lengths that bars are delivered in',
			usual: [6000]
		},
		{ kind: 'length', name: 'kerf', label: 'Cut mm', help: 'What a cut takes away', usual: 4, most: 100 },
		{ kind: 'length', name: 'trim', label: 'Ends mm', help: 'Cut off both ends together', usual: 20, most: 1000 }
	],
	glb: [
		{
			kind: 'tick',
			name: 'instances',
			label: 'Equal bodies once',
			help: 'Smaller; wants a viewer that knows EXT_mesh_gpu_instancing',
			usual: false
		},
		{
			kind: 'tick',
			name: 'quantised',
			label: 'Positions in 16 bits',
			help: 'Smaller; true to a 65 000th of the model (KHR_mesh_quantization)',
			usual: false
		}
	],
	ifc: [
		{
			kind: 'tick',
			name: 'openings',
			label: 'Openings',
			help: 'As voids, with the windows and doors in them',
			usual: true
		},
		{ kind: 'tick', name: 'grid', label: 'Grid lines and nodes', help: 'As annotations of each face', usual: false },
		{
			kind: 'several',
			name: 'readings',
			label: 'Told of each cell',
			help: 'In the set of properties of the pieces on it',
			usual: ['area', 'warp', 'tilt'],
			of: Object.entries(MAIN_CELL_READINGS).map(([value, { label }]) => ({ value, text: label }))
		}
	]
};

export const choicesOf = (format: Format): readonly FileChoice[] => CHOICES[groupOf(format)] ?? [];

/** Lengths in a text, such as `6000, 4500`; nothing where there is something else in it. */
export function readLengths(text: string): number[] | undefined {
	const found = text
		.split(/[\s,;]+/)
		.filter(Boolean)
		.map(Number);
	return found.length && found.every((l) => l > 0 && l <= 100_000) ? found : undefined;
}
