import type { HostShape } from './hosts.ts';
import type { Mesh } from './mesh.ts';
import type { Block, KitProgram } from './program.ts';
import type { Kit, Step } from './schema.ts';

/** A mould: bodies made in a box of its own, once for each distinct set of values. */
export interface Mould {
	readonly mask: number;
	/** One of its bodies, in the box's own sizes from 0 to 1. */
	readonly mesh: (block: Block, h: number, body: string) => MouldedBody | undefined;
	readonly bodies: () => readonly string[];
}

/** A body as it is drawn, and how much more area and volume what it stands for has. */
export interface MouldedBody {
	readonly mesh: Mesh;
	readonly area: number;
	readonly volume: number;
}

/** What a builder needs of the world: other kits, meshes, and how an inner kit is compiled. */
export interface BuilderWorld {
	readonly library: KitLibrary;
	readonly modules: ModuleLibrary;
	/** How many kits this one stands in. */
	readonly depth: number;
	/** Names of what a step takes from others, as its kind's fields tell. */
	readonly takes: (step: Step) => readonly string[];
	readonly compile: (
		kit: Kit,
		shape: HostShape,
		options: {
			readonly given: ReadonlySet<string>;
			readonly varying: ReadonlySet<string>;
			readonly texts: Readonly<Record<string, string>>;
			readonly depth: number;
		}
	) => KitProgram;
}

/** The kit's other kits, by id. */
export type KitLibrary = ReadonlyMap<string, Kit>;

/** Meshes from files, in a box from 0 to 1, by id. */
export type ModuleLibrary = ReadonlyMap<string, Mesh>;
