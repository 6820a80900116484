import { z } from 'zod';
import { wordSchema } from '../names.ts';
import { feetOrText, lengthOr } from '../units/lengthSchema.ts';
import type { Quantity } from '../units/quantity.ts';

/** A plain number in mm, radians or without a unit, or a formula; feet and inches are read as a length. */
export const valueSchema = z.union([z.number(), z.string().trim().min(1).max(300).transform(feetOrText)]);
export type Value = z.output<typeof valueSchema>;

/** What a step makes that others can take. */
export type Shape = 'point' | 'line' | 'body' | 'pieces' | 'mould';

/** How a field is filled in, and what it refers to. */
export type Form =
	| { readonly type: 'value'; readonly quantity: Quantity | 'yesno' }
	| { readonly type: 'ref'; readonly of: readonly Shape[]; readonly many?: boolean }
	| { readonly type: 'option'; readonly options: Readonly<Record<string, string>> }
	| { readonly type: 'whole'; readonly least: number; readonly greatest: number }
	| { readonly type: 'flag' }
	| { readonly type: 'text' }
	/** Two numbers each, mm. */
	| { readonly type: 'points' }
	| { readonly type: 'material' }
	| { readonly type: 'kit' }
	| { readonly type: 'module' }
	/** Values of another kit's parameters, by name. */
	| { readonly type: 'values' };

/** One field of a step: its schema, and what its form shows. */
export interface Field<S extends z.ZodType = z.ZodType> {
	readonly schema: S;
	readonly label: string;
	readonly help: string;
	readonly optional: boolean;
	/** What a new step starts with. */
	readonly preset?: unknown;
	readonly form: Form;
}

export type Fields = Readonly<Record<string, Field>>;

const field = <S extends z.ZodType>(schema: S, form: Form, label: string, help = '', preset?: unknown): Field<S> => ({
	schema,
	form,
	label,
	help,
	optional: schema instanceof z.ZodOptional,
	...(preset === undefined ? {} : { preset })
});

/** A number or formula that must be there. */
export const value = (quantity: Quantity, label: string, help = '', preset: Value = 0) =>
	field(valueSchema, { type: 'value', quantity }, label, help, preset);
/** A number or formula with a value of its own when left out. */
export const valueOr = (quantity: Quantity, preset: Value, label: string, help = '') =>
	field(valueSchema.default(preset), { type: 'value', quantity }, label, help, preset);
/** A number or formula that may be left out. */
export const valueOrNone = (quantity: Quantity, label: string, help = '') =>
	field(valueSchema.optional(), { type: 'value', quantity }, label, help);
export const ref = (of: readonly Shape[], label: string, help = '') =>
	field(wordSchema, { type: 'ref', of }, label, help);
export const refOrNone = (of: readonly Shape[], label: string, help = '') =>
	field(wordSchema.optional(), { type: 'ref', of }, label, help);
export const refs = (of: readonly Shape[], label: string, help = '', least = 1) =>
	field(z.array(wordSchema).min(least).max(200), { type: 'ref', of, many: true }, label, help);
export const refsOrNone = (of: readonly Shape[], label: string, help = '') =>
	field(z.array(wordSchema).max(200).optional(), { type: 'ref', of, many: true }, label, help);
export const whole = (least: number, greatest: number, preset: number, label: string, help = '') =>
	field(z.int().min(least).max(greatest).default(preset), { type: 'whole', least, greatest }, label, help, preset);
export const flag = (preset: boolean, label: string, help = '') =>
	field(z.boolean().default(preset), { type: 'flag' }, label, help, preset);

/** One of several, the first when left out. */
export function option<const O extends Readonly<Record<string, string>>>(options: O, label: string, help = '') {
	const names = Object.keys(options) as [keyof O & string, ...(keyof O & string)[]];
	return field(z.enum(names).default(names[0] as never), { type: 'option', options }, label, help, names[0]);
}

const point = z.tuple([lengthOr(z.number()), lengthOr(z.number())]);
export const drawnPoints = (label: string, help = '') =>
	field(z.array(point).min(3).max(200).optional(), { type: 'points' }, label, help);
export const kitRef = (label: string, help = '') => field(z.string().max(60), { type: 'kit' }, label, help);
export const moduleRef = (label: string, help = '') =>
	field(z.string().max(60).optional(), { type: 'module' }, label, help);
export const kitValues = (label: string, help = '') =>
	field(z.record(wordSchema, valueSchema).default({}), { type: 'values' }, label, help, {});

/** What a field of these parameters is, as the compiler sees it. */
export type ShapeOf<F extends Fields> = { readonly [K in keyof F]: F[K] extends Field<infer S> ? S : never };

/** What parts are for; it sorts schedules and pictures. */
export const ROLES = [
	'pane',
	'frame',
	'reveal',
	'panel',
	'mullion',
	'louver',
	'fin',
	'connector',
	'rod',
	'screen',
	'backing'
] as const;
export type PartRole = (typeof ROLES)[number];
const roleOptions = Object.fromEntries(ROLES.map((role) => [role, role])) as Readonly<Record<PartRole, string>>;

/** What every part has. */
export const partFields = {
	role: field(z.enum(ROLES), { type: 'option', options: roleOptions }, 'Role', 'What the part is for', 'panel'),
	material: field(
		z.string().max(60),
		{ type: 'material' },
		'Material',
		'One of the project’s, or a material parameter'
	),
	scheduled: field(
		z.boolean().default(true),
		{ type: 'flag' },
		'Scheduled',
		'Counts in schedules, prices and weights; models show it either way',
		true
	),
	label: field(
		z.string().trim().max(120).optional(),
		{ type: 'text' },
		'Text',
		'Printed with the part; {name} puts in a text or a choice of the kit'
	)
};

/** Sheets are as thick as their weight wants, and drawn thin. */
export const thickness = value('length', 'Thickness', 'For the weight; the part is drawn thin', 3);

export const profileFields = {
	profile: option(
		{
			rectangle: 'Rectangle',
			hollow: 'Hollow rectangle',
			round: 'Round',
			tube: 'Tube',
			tee: 'T',
			angle: 'L',
			channel: 'Channel',
			drawn: 'Drawn'
		},
		'Profile',
		'The cross-section'
	),
	width: valueOr('length', 50, 'Width', 'Along the face; diameter of round ones'),
	depth: valueOr('length', 100, 'Depth', 'Square to the face'),
	wall: valueOr('length', 5, 'Wall', 'Thickness of hollow rectangles, tubes, T, L and channels'),
	drawn: drawnPoints('Corners', 'Of a drawn profile: along the face and outwards, mm, anticlockwise')
};
