import type { Ends } from '../geometry/borders.ts';
import type { Surface } from '../geometry/surface.ts';
import type { DrawnPaths } from '../placement/drawn/drawPaths.ts';
import type { Assigned } from '../placement/rules/assign.ts';
import type { CellReadings } from '../readings/measureCells.ts';
import type { FaceSchedule } from '../schedule/faceTable.ts';
import type { RulePlacement } from '../schedule/kitsOf.ts';
import type { ChartedFace } from '../settingout/development.ts';
import type { LaidDirection } from '../settingout/directions.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import type { CellTable } from '../tiling/cells.ts';
import type { LaidOpening } from '../tiling/openings/layOpening.ts';
import type { Result } from './memo.ts';
import type { StageTimes, Warning } from './run.ts';

/** A face before it is divided. */
export interface FaceBody {
	readonly key: string;
	readonly name: string;
	readonly mark: string;
	readonly surface: Surface;
	readonly ends: Ends;
	/** Of what its surface was made from. */
	readonly bodyHash: string;
}

/** A face that is divided, before anything stands on it. */
export interface DividedFace {
	readonly key: string;
	/** The face as its setting-out sees it: turned by a quarter or begun at another seam. */
	readonly charted: ChartedFace;
	readonly nodes: NodeTable;
	readonly cells: CellTable;
	/** Of everything that its nodes and cells were made from. */
	readonly dividedHash: string;
}

/** Everything derived for one face. */
export interface FaceModel extends FaceBody, DividedFace {
	readonly across: LaidDirection;
	readonly up: LaidDirection;
	readonly openings: readonly LaidOpening[];
	/** Distance of the second layer, mm, the same or by node; 0 without one. */
	readonly layer: number | Float64Array;
	/** Paths that are drawn on it. */
	readonly drawn: DrawnPaths;
	readonly readings: CellReadings;
	/** Which rule takes which host. */
	readonly assigned: Assigned;
	readonly placements: readonly RulePlacement[];
	/** Values that were held at their parameters' limits, host by host. */
	readonly clamped: number;
	readonly schedule: FaceSchedule;
	/** How the marks of its cells are written. */
	readonly template: string;
	/** Of everything that it was made from: the same hash, the same bytes. */
	readonly hash: string;
	/** What its arrays belong to. */
	readonly holds: readonly Result[];
}

/** What one face has come to. A value: nothing of it changes, and the same inputs give the same. */
export interface FaceResult {
	readonly key: string;
	/** None where its surface cannot be made. */
	readonly body?: FaceBody;
	/** None where it is not divided, or where that went wrong. */
	readonly model?: FaceModel;
	readonly warnings: readonly Warning[];
	/** Why it could not be divided: a fault of the user's, which is mended beside its cause. */
	readonly failure?: Warning;
	readonly times: StageTimes;
}
