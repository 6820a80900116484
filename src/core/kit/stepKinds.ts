import { z } from 'zod';
import type { Builder } from './builder.ts';
import type { StepKind } from './stepKind.ts';
import { bayCells } from './steps/bayCells.ts';
import { bar } from './steps/bar.ts';
import { blades } from './steps/blades.ts';
import { ball, box, cylinder, loft, prism, solid } from './steps/bodies.ts';
import { combine } from './steps/combine.ts';
import { corner, outline } from './steps/gather.ts';
import { innerKit } from './steps/innerKit.ts';
import { joined } from './steps/joined.ts';
import { inset } from './steps/inset.ts';
import { line } from './steps/line.ts';
import { alongFace, cut, fixed, round, side } from './steps/lines.ts';
import { module, mould } from './steps/module.ts';
import { lift, onFace, project } from './steps/move.ts';
import { number } from './steps/number.ts';
import { divide, each, repeat } from './steps/pieces.ts';
import { along, crossing, middle } from './steps/points.ts';
import { screen } from './steps/screen.ts';
import { star } from './steps/star.ts';
import { plate, ribbon, sheet } from './steps/sheets.ts';

/** Every kind of step, in the order of the list that they are chosen from. Adding one is a file and two lines here. */
const KINDS = [
	outline,
	corner,
	along,
	middle,
	crossing,
	line,
	side,
	alongFace,
	inset,
	lift,
	project,
	onFace,
	round,
	cut,
	fixed,
	star,
	number,
	repeat,
	each,
	divide,
	bayCells,
	mould,
	box,
	ball,
	cylinder,
	prism,
	loft,
	combine,
	sheet,
	plate,
	ribbon,
	bar,
	joined,
	blades,
	solid,
	module,
	screen,
	innerKit
] as const;

export const STEP_SCHEMA = z.discriminatedUnion('kind', [
	outline.schema,
	corner.schema,
	along.schema,
	middle.schema,
	crossing.schema,
	line.schema,
	side.schema,
	alongFace.schema,
	inset.schema,
	lift.schema,
	project.schema,
	onFace.schema,
	round.schema,
	cut.schema,
	fixed.schema,
	star.schema,
	number.schema,
	repeat.schema,
	each.schema,
	divide.schema,
	bayCells.schema,
	mould.schema,
	box.schema,
	ball.schema,
	cylinder.schema,
	prism.schema,
	loft.schema,
	combine.schema,
	sheet.schema,
	plate.schema,
	ribbon.schema,
	bar.schema,
	joined.schema,
	blades.schema,
	solid.schema,
	module.schema,
	screen.schema,
	innerKit.schema
]);

export type AnyStep = z.output<typeof STEP_SCHEMA>;
export type StepKindName = AnyStep['kind'];

/** A kind as whoever shows or compiles any step sees it. */
export type AnyStepKind = Omit<StepKind, 'compile' | 'kind'> & {
	readonly kind: StepKindName;
	readonly compile: (step: AnyStep, builder: Builder) => void;
};

export const STEP_KINDS = Object.fromEntries(KINDS.map((k) => [k.kind, k])) as unknown as Readonly<
	Record<StepKindName, AnyStepKind>
>;
export const STEP_KIND_NAMES = KINDS.map((k) => k.kind) as readonly StepKindName[];
