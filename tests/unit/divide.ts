import type { Ends } from '../../src/core/geometry/borders.ts';
import { endsOf } from '../../src/core/geometry/borders.ts';
import type { Surface } from '../../src/core/geometry/surface.ts';
import { chartLengths } from '../../src/core/settingout/lengthChart.ts';
import { setOut, type NodeTable, type SetOut } from '../../src/core/settingout/nodes.ts';
import { settingOutOf, type Spacing } from '../../src/core/settingout/spacing.ts';

export const count = (n: number): Spacing => ({ kind: 'count', count: n });

/** A face divided by two spacings. */
export const layOut = (surface: Surface, across: Spacing, up: Spacing, ends: Ends = endsOf(surface)): SetOut =>
	setOut({ surface, chart: chartLengths(surface), ends }, settingOutOf(across, up));

/** A face divided into so many fields across and up. */
export const divide = (surface: Surface, across: number, up: number, ends?: Ends): NodeTable =>
	layOut(surface, count(across), count(up), ends).nodes;
