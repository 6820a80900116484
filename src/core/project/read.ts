import { z } from 'zod';
import { messageOf, ZygasterError } from '../errors.ts';
import { MOST_CHARACTERS } from '../limits.ts';
import { inWords } from './describe.ts';
import { keptFrom, unpackContents } from './contents.ts';
import { parseLength } from '../units/length.ts';
import { rulesInSets, type PlainRule } from './rulesInSets.ts';
import { FORMAT, projectSchema, VERSION, type Project } from './schema.ts';
import { checkingDocument } from './sound.ts';

/** Turns a document of one version into the next. */
export type Migration = (document: Record<string, unknown>) => Record<string, unknown>;

/** `MIGRATIONS[v]` brings a document of version v to v + 1. Append only. */
export const MIGRATIONS: Readonly<Record<number, Migration>> = {
	// The arched shape is called a vault since lofts run through level sections.
	1: (document) => ({
		...document,
		masses: listOf(document.masses).map((mass) => {
			const { shape } = mass as { shape?: { kind?: unknown } };
			return shape?.kind === 'loft' ? { ...(mass as object), shape: { ...shape, kind: 'vault' } } : mass;
		})
	}),
	// A direction of a setting-out tells more than its spacing.
	2: (document) => ({
		...document,
		masses: listOf(document.masses).map((mass) => ({
			...(mass as object),
			faces: listOf((mass as { faces?: unknown }).faces).map((face) => {
				const { across, up } = (face as { settingOut?: { across?: unknown; up?: unknown } }).settingOut ?? {};
				return { ...(face as object), settingOut: { across: { spacing: across }, up: { spacing: up } } };
			})
		}))
	}),
	// Faces have tilings of every kind, marks by a template and an order; what is missing has defaults.
	3: (document) => document,
	// Several kits may stand on a face, where the last rule alone held; names within kits are words that formulas can mention.
	4: (document) => ({
		...document,
		kits: listOf(document.kits).map(withWords),
		rules: listOf(document.rules)
			.filter(
				(rule, k, all) =>
					all.findLastIndex((r) => (r as { face?: unknown }).face === (rule as { face?: unknown }).face) === k
			)
			.map((rule) => ({
				...(rule as object),
				values: Object.fromEntries(
					Object.entries((rule as { values?: object }).values ?? {}).map(([name, value]) => [toWord(name), value])
				)
			}))
	}),
	// Meshes and points of faces stand beside the document, which names them.
	5: (document) => ({
		...document,
		modules: listOf(document.modules).map((mesh) => withNames(mesh, ['positions', 'triangles'], 'modules')),
		references: listOf(document.references).map((mesh) => withNames(mesh, ['positions', 'triangles'], 'references')),
		masses: listOf(document.masses).map((mass) => {
			const { shape } = mass as { shape?: { kind?: unknown; faces?: unknown } };
			if (shape?.kind !== 'imported') return mass;
			const faces = listOf(shape.faces).map((face) => withNames(face, ['points'], 'masses'));
			return { ...(mass as object), shape: { ...shape, faces } };
		})
	}),
	// Rules stand in sets, of which each gives a host to the first that holds; before, all of a face's kits stood on it.
	6: (document) =>
		document.sets !== undefined || !Array.isArray(document.rules)
			? document
			: {
					...document,
					...rulesInSets(
						listOf(document.rules).filter(isObject).map(plainRule),
						listOf(document.kits).filter(isObject) as unknown as Parameters<typeof rulesInSets>[1]
					)
				},
	// Paths, trimmed kits, and fields that the division follows came; older documents have none.
	7: (document) => document
};

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

/** What is wrong with it is told by the check, so that nothing is left out here. */
const plainRule = ({ values, ...rule }: Record<string, unknown>) =>
	({ values: values ?? {}, ...rule }) as unknown as PlainRule;

/** Something whose bytes, which it held itself, have become contents. */
const withNames = (holder: unknown, fields: readonly string[], place: string): unknown => ({
	...(holder as object),
	...Object.fromEntries(
		fields.map((field) => [field, keptFrom((holder as Record<string, unknown>)[field], `${place} › ${field}`)])
	)
});

const toWord = (name: unknown) => (typeof name === 'string' ? name.replaceAll('-', '_') : name) as string;

/** A kit whose parameters and steps had hyphens in their names. */
function withWords(kit: unknown): unknown {
	const { parameters, steps } = kit as { parameters?: unknown; steps?: unknown };
	return {
		...(kit as object),
		parameters: listOf(parameters).map((p) => ({ ...(p as object), name: toWord((p as { name?: unknown }).name) })),
		steps: listOf(steps).map((step) =>
			Object.fromEntries(
				Object.entries(step as object).map(([field, value]) => [
					field,
					['kind', 'role', 'material', 'towards'].includes(field) ? value : toWord(value)
				])
			)
		)
	};
}

const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

/** Reads a project from JSON text. Throws a ZygasterError with code `json` or `project`. */
export function readProject(text: string): Project {
	if (text.length > MOST_CHARACTERS)
		throw new ZygasterError('json', `The file has ${text.length} characters; at most ${MOST_CHARACTERS} are read.`);
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (cause) {
		throw new ZygasterError('json', `This is not JSON: ${messageOf(cause)}.`, '', { cause });
	}
	return checkDocument(raw);
}

/** A document without the contents that a file packs with it; these are taken in. */
function withoutContents(raw: unknown): unknown {
	if (typeof raw !== 'object' || raw === null || !Object.hasOwn(raw, 'contents')) return raw;
	const { contents, ...document } = raw as Record<string, unknown>;
	unpackContents(contents);
	return document;
}

/** Migrates and checks a parsed document, and takes in the contents that came with it; key order and defaults become those of the schema. */
export function checkDocument(raw: unknown, migrations = MIGRATIONS, current: number = VERSION): Project {
	const document = withLengths(migrate(withoutContents(raw), migrations, current));
	return checked(
		raw,
		checkingDocument('all', () => projectSchema.safeParse(document))
	);
}

/**
 * Checks a changed document that shares what stays with one that has been checked: only what has changed is gone through,
 * and what has not stays the same object.
 */
export function checkChanged(changed: Project): Project {
	const document = withLengths(changed);
	return checked(
		changed,
		checkingDocument('changed', () => projectSchema.safeParse(document))
	);
}

function checked(raw: unknown, result: ReturnType<typeof projectSchema.safeParse>): Project {
	if (result.success) return result.data;
	throw new ZygasterError(
		'project',
		explainIssues(result.error, raw),
		result.error.issues[0] ? placeOf(result.error.issues[0].path, raw) : ''
	);
}

/** Values of a rule at most: a kit has fewer parameters. They are counted before anything is asked of them. */
const MOST_VALUES = 1000;

/** Values of rules that are texts where the kit has a length, as mm; what is no length stays, and is told of by the check. */
function withLengths(document: unknown): unknown {
	const { rules, overrides, kits } = document as { rules?: unknown; overrides?: unknown; kits?: unknown };
	if (!Array.isArray(rules) && !Array.isArray(overrides)) return document;
	const lengthsOf = new Map(
		listOf(kits).map((kit) => {
			const { id, parameters } = kit as { id?: unknown; parameters?: unknown };
			return [
				id,
				new Set(
					listOf(parameters).flatMap((p) =>
						(p as { quantity?: unknown }).quantity === 'length' ? [(p as { name?: unknown }).name] : []
					)
				)
			] as const;
		})
	);
	const read = (list: unknown, place: string) => {
		if (!Array.isArray(list)) return list;
		const changed = list.map((rule: unknown, r) => {
			const { kit, values } = (rule ?? {}) as { kit?: unknown; values?: unknown };
			const lengths = lengthsOf.get(kit);
			if (typeof values !== 'object' || values === null || !lengths) return rule;
			if (Object.keys(values).length > MOST_VALUES)
				throw new ZygasterError(
					'project',
					`Rule ${r + 1} has more than ${MOST_VALUES} values; right would be one for each parameter of its kit.`,
					place
				);
			const inMm = Object.entries(values).flatMap(([name, value]) => {
				const length = lengths.has(name) ? lengthsWithin(value) : value;
				return length === value ? [] : [[name, length] as const];
			});
			return inMm.length ? { ...(rule as object), values: { ...values, ...Object.fromEntries(inMm) } } : rule;
		});
		return changed.every((rule, r) => rule === list[r]) ? (list as unknown) : changed;
	};
	const [rulesRead, overridesRead] = [read(rules, 'rules'), read(overrides, 'overrides')];
	return rulesRead === rules && overridesRead === overrides
		? document
		: { ...(document as object), rules: rulesRead, overrides: overridesRead };
}

/** A value with its texts that are lengths as mm: by itself, or those that it names. */
function lengthsWithin(value: unknown): unknown {
	if (typeof value === 'string') {
		const length = parseLength(value, 'mm');
		return 'mm' in length ? length.mm : value;
	}
	if (typeof value !== 'object' || value === null) return value;
	const { from, to, values } = value as { from?: unknown; to?: unknown; values?: unknown };
	const inMm = {
		...(typeof from === 'string' ? { from: lengthsWithin(from) } : {}),
		...(typeof to === 'string' ? { to: lengthsWithin(to) } : {}),
		...(listOf(values).some((v) => typeof v === 'string' || isObject(v))
			? {
					values: listOf(values).map((v) => (isObject(v) ? { ...v, value: lengthsWithin(v.value) } : lengthsWithin(v)))
				}
			: {})
	};
	return Object.keys(inMm).length ? { ...value, ...inMm } : value;
}

/** Brings a document of any known version to `current`. */
export function migrate(raw: unknown, migrations: Readonly<Record<number, Migration>>, current: number): unknown {
	if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
		throw new ZygasterError('project', 'A project is a JSON object; this is something else.');
	let document = raw as Record<string, unknown>;
	if (document.format !== FORMAT)
		throw new ZygasterError(
			'project',
			`This is not a Zygaster project: its “format” is ${show(document.format)}, right would be "${FORMAT}".`,
			'format'
		);
	const version = document.version;
	if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
		throw new ZygasterError(
			'project',
			`The “version” is ${show(version)}; right would be a whole number from 1 to ${current}.`,
			'version'
		);
	if (version > current)
		throw new ZygasterError(
			'too-new',
			`This project was saved by a newer Zygaster (version ${version}); this one reads up to version ${current}.`,
			'version'
		);
	for (let v = version; v < current; v++) {
		const step = migrations[v];
		if (!step) throw new ZygasterError('project', `No way leads from version ${v} to ${v + 1}.`);
		document = { ...step(document), version: v + 1 };
	}
	return document;
}

/** All faults of a document in the user's words, a line each, ten at most. */
export function explainIssues(error: z.ZodError, raw: unknown): string {
	const lines = error.issues.slice(0, 10).map((issue) => {
		const place = placeOf(issue.path, raw);
		return place ? `${place}: ${issue.message}` : issue.message;
	});
	const more = error.issues.length - lines.length;
	return lines.join('\n') + (more > 0 ? `\nand ${more} more` : '');
}

/** Parts of a document that people do not see as such. */
const UNSEEN: ReadonlySet<string> = new Set(['shape', 'settingOut', 'spacing']);

/** A place as the screen names it: `Roof › Roof skin, across, count`, or `Canopy, section 2, span`. */
function placeOf(path: readonly PropertyKey[], raw: unknown): string {
	let at: unknown = raw;
	const names: string[] = [];
	const rest: string[] = [];
	for (const key of path) {
		at = (at as Record<PropertyKey, unknown> | undefined)?.[key];
		if (typeof key !== 'number') {
			rest.push(String(key));
			continue;
		}
		const list = rest.pop() ?? '';
		const name = (at as { name?: unknown } | undefined)?.name;
		if (typeof name === 'string') names.push(name);
		else rest.push(`${list.replace(/(?<=ss)es$|s$/, '')} ${key + 1}`.trim());
	}
	const words = rest.filter((word) => !UNSEEN.has(word)).map(inWords);
	return [names.join(' › '), ...words].filter(Boolean).join(', ');
}

const show = (value: unknown) => (value === undefined ? 'missing' : JSON.stringify(value));
