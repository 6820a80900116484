import { kitSchema, type Kit } from '../schema.ts';
import { BAY_KITS } from './bays.ts';
import { LATTICES } from './lattices.ts';
import { LAYER_KITS } from './layers.ts';
import { MEMBERS } from './members.ts';
import { NODE_KITS } from './nodes.ts';
import { FLAT_PANE as FLAT, FRAMED_PANE as FRAMED, PANELS } from './panels.ts';
import { PATH_KITS } from './paths.ts';
import { SHADES } from './shades.ts';

export const FLAT_PANE: Kit = kitSchema.parse(FLAT);
export const FRAMED_PANE: Kit = kitSchema.parse(FRAMED);

/** Every kit that comes with the application, each made in the kit language. */
export const STARTER_KITS: readonly Kit[] = [
	...PANELS,
	...LATTICES,
	...SHADES,
	...MEMBERS,
	...NODE_KITS,
	...LAYER_KITS,
	...PATH_KITS,
	...BAY_KITS
].map((kit) => kitSchema.parse(kit));
