import type { ArraySource } from '../arrays.ts';
import type { CurveRun } from './curves.ts';
import type { Column } from './formula/compile.ts';
import type { Grow } from './grow.ts';
import type { HostColumns, HostShape } from './hosts.ts';
import type { Mesh } from './mesh.ts';
import type { Kit, PartStep } from './schema.ts';
import type { SolidPort } from './solids.ts';

/** Steps without a condition, all of whose inputs are always there. */
export const ALWAYS = -1;

/** A line or point of a kit: consecutive points of a host's block. */
export interface Line {
	readonly first: number;
	readonly count: number;
	readonly closed: boolean;
	/** Index of the mask that says where it is there, or ALWAYS. */
	readonly mask: number;
	/** Its pieces stand for a curve, so that a bar along them is one bent piece. */
	readonly bent?: boolean;
	/** Which of its pieces stand for curves; all are straight when left out. */
	readonly curves?: readonly CurveRun[];
	/** Of one of the host's own points: its number among the host's points. */
	readonly corner?: number;
	/** Its corners need not be those of a cell in turn, so that it may be dented. */
	readonly free?: boolean;
	/** Its points are the ends of a node's edges, in order. */
	readonly spokes?: boolean;
	/** Holes of a single host beside it, which move as it does. */
	readonly holes?: readonly Line[];
}

/** Hosts `from` to `from + count` of a run on their way through the program. */
export interface Block {
	readonly hosts: HostColumns;
	readonly from: number;
	readonly count: number;
	/** All points of the run; host `h` of the run starts at `h * stride`. */
	readonly points: Float64Array;
	readonly stride: number;
	/** By slot: values of the hosts of this block. */
	readonly columns: Column[];
	/** By mask: 1 where the hosts of this block have the step. */
	readonly masks: readonly Uint8Array[];
	/** By host of the run: 0 when sound, else 1 + the index of the fault. */
	readonly failed: Uint16Array;
	/** By host of the run: 1 where a parameter was held at its limit. */
	readonly clamped: ReadonlyMap<string, Uint8Array>;
	readonly solids: SolidPort | undefined;
}

export type Op = (block: Block) => void;

/** What can go wrong on a host. */
export interface Fault {
	readonly step: string;
	/** What happened, and what would be right. */
	readonly reason: string;
}

/** mm2, mm and mm3, one a host of the run, and how many pieces it has. */
export interface Quantities {
	readonly area: Float64Array;
	readonly length: Float64Array;
	readonly volume: Float64Array;
	readonly pieces: Float64Array;
	/** What each of a host's pieces has of it, where a host has several. */
	readonly each?: EachPiece;
}

/** By piece, `count` a host. */
export interface EachPiece {
	readonly count: number;
	/** mm */
	readonly length: Float64Array;
	/** Of the host's area and volume, 0 to 1. */
	readonly share: Float64Array;
}

/** Triangles over the host's points, the same for every host. */
export interface PatternPlan {
	readonly kind: 'pattern';
	/** Three point numbers a triangle, within a host's block; anticlockwise from outside. */
	readonly triangles: Uint16Array;
}

/** Equal bodies put up by a transform each: columns x, y, z and origin of a 3 x 4 matrix. */
export interface InstancePlan {
	readonly kind: 'instances';
	readonly mesh: (columns: readonly Column[]) => Mesh;
	readonly generate: (block: Block, out: InstanceSink) => void;
}

/** A mesh for every host, of its own size. */
export interface LoosePlan {
	readonly kind: 'loose';
	readonly generate: (block: Block, out: LooseSink, quantities: Quantities) => void;
}

/** A plate for every host, of its own size. */
export interface PlatePlan {
	readonly kind: 'plates';
	readonly generate: (block: Block, out: PlateSink, quantities: Quantities) => void;
}

/** Meshes fitted into the hosts: the same triangles, other points. */
export interface FittedPlan {
	readonly kind: 'fitted';
	readonly generate: (block: Block, sinkFor: (mesh: Mesh) => FittedSink, quantities: Quantities) => void;
}

/** Round bars that are joined with those of all other hosts. */
export interface JoinedPlan {
	readonly kind: 'joined';
	readonly generate: (block: Block, out: JoinedSink) => void;
}

export interface JoinedSink {
	/** Start and end, 6 a bar. */
	readonly ends: Grow;
	readonly radius: Grow;
	/** Host of the run that each bar stands on. */
	readonly rows: Grow;
	softness: number;
	deviation: number;
}

export interface FittedSink {
	/** As many points a piece as the mesh has, stride 3. */
	readonly positions: Grow;
	readonly rows: Grow;
}

export interface InstanceSink {
	/** 12 a piece. */
	readonly transforms: Grow;
	/** Host of the run that each piece stands on. */
	readonly rows: Grow;
}

export interface LooseSink {
	readonly positions: Grow;
	readonly triangles: Grow;
	readonly rows: Grow;
	/** First number in `positions` and `triangles` of each piece. */
	readonly positionStart: Grow;
	readonly triangleStart: Grow;
}

/** As `PlateGeometry`, begun by `beginPlate`. */
export interface PlateSink {
	readonly places: Grow;
	readonly points: Grow;
	readonly triangles: Grow;
	readonly loops: Grow;
	readonly starts: Grow;
	readonly back: Grow;
	readonly rows: Grow;
}

export interface PartPlan {
	readonly step: PartStep;
	readonly mask: number;
	readonly geometry: PatternPlan | InstancePlan | LoosePlan | PlatePlan | FittedPlan | JoinedPlan;
	/** Code of the fault of hosts on which it would have corners or quantities that are no numbers. */
	readonly broken?: number;
	/** Its area on host `h`, mm2, where formulas may ask for it. */
	readonly area?: (block: Block, h: number) => number;
	/** How many pieces each host has, where they are told apart. */
	readonly eachOf?: number;
	/** Fills in the quantities of the hosts of a block; loose plans may do it as they go. */
	readonly measure?: (block: Block, quantities: Quantities) => void;
}

/** Where the hosts of an inner program come from. */
export interface HostSink {
	/** Points of each host one after the other. */
	readonly points: Grow;
	/** Normal of each host. */
	readonly normals: Grow;
	/** Host of the run that each belongs to. */
	readonly rows: Grow;
	/** Numbers of its own, such as its index, in the order of `ChildPlan.own`. */
	readonly own: readonly Grow[];
}

/** Pieces or sub-cells of the host, on which steps of their own run. */
export interface ChildPlan {
	readonly step: string;
	readonly program: KitProgram;
	/** Slots in the inner program of the numbers that each host brings along. */
	readonly own: readonly number[];
	/** Numbers of the outer host that the inner steps mention: outer slot, inner slot. */
	readonly captured: readonly (readonly [number, number])[];
	readonly spawn: (block: Block, out: HostSink) => void;
	/** Each is for an edge of a node, whose number is the first of its own. */
	readonly spokes?: boolean;
}

/** A body on host `h` of a block, in mm. */
export interface Body {
	readonly mask: number;
	/** As it is drawn; nothing, and the host marked as failed, where there is none. */
	readonly mesh: (block: Block, h: number) => Mesh | undefined;
	/** As it is measured, where what is drawn only stands for something round: finer, and as large as what is meant. */
	readonly fine?: (block: Block, h: number) => Mesh | undefined;
}

/** A kit made ready for hosts of one shape: what to compute, in order, and where it goes. */
export interface KitProgram {
	readonly kit: Kit;
	readonly shape: HostShape;
	readonly pointsPerHost: number;
	/** Slots of parameters, by name. */
	readonly parameters: ReadonlyMap<string, number>;
	/** Slots of readings of the host, by name. */
	readonly readings: ReadonlyMap<string, number>;
	/** Numbers written in the kit. */
	readonly constants: readonly (readonly [slot: number, value: number])[];
	/** Slots of values that are of interest by themselves, by name. */
	readonly values: ReadonlyMap<string, number>;
	readonly slots: number;
	readonly maskCount: number;
	readonly ops: readonly Op[];
	readonly parts: readonly PartPlan[];
	readonly children: readonly ChildPlan[];
	readonly faults: readonly Fault[];
	/** Lines, points and bodies by step. */
	readonly lines: ReadonlyMap<string, Line>;
	readonly bodies: ReadonlyMap<string, Body>;
	/** Bodies are joined or cut, which takes the solids package. */
	readonly needsSolids: boolean;
	/** Texts and materials that are given to an inner kit, by parameter. */
	readonly texts: Readonly<Record<string, string>>;
}

/** What a run may use. */
export interface RunPorts {
	readonly arrays?: ArraySource;
	readonly solids?: SolidPort;
}
