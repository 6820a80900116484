import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

/** An attribute of an entity: what it may be, and whether it may be left out. */
interface Attribute {
	readonly name: string;
	readonly types: readonly string[];
	/** How many lists deep. */
	readonly depth: number;
	readonly optional: boolean;
}

const PLAIN: Readonly<Record<string, 'text' | 'logical' | 'list' | 'number'>> = {
	string: 'text',
	boolean: 'logical',
	logical: 'logical',
	number: 'number',
	Array: 'list'
};

/** IFC4 (ISO 16739-1), as the package web-ifc declares it: entities, enumerations, selects and plain types. */
export class IfcSchema {
	private readonly entities = new Map<string, { readonly parent: string; readonly attributes: Attribute[] }>();
	private readonly enums = new Map<string, ReadonlySet<string>>();
	private readonly selects = new Map<string, readonly string[]>();
	private readonly plain = new Map<string, 'text' | 'number' | 'logical' | 'list'>();

	constructor() {
		const file = createRequire(import.meta.url)
			.resolve('web-ifc')
			.replace(/[^/]+$/, 'ifc-schema.d.ts');
		const text = readFileSync(file, 'utf8');
		const part = text.slice(text.indexOf('declare namespace IFC4 {'), text.indexOf('declare namespace IFC4X3 {'));
		for (const [, name, members] of part.matchAll(/^ {4}type (\w+) = ([^;]+);/gm))
			this.selects.set(
				name!,
				members!.split('|').map((m) => m.replace(/[()]|Handle<\w+>/g, '').trim())
			);
		for (const [, name, parent, body] of part.matchAll(/^ {4}class (\w+)(?: extends (\w+))? \{([\s\S]*?)^ {4}\}/gm)) {
			const values = [...body!.matchAll(/static (\w+): any/g)].map((m) => m[1]!);
			const value = /^ {8}value: (\w+)/m.exec(body!)?.[1];
			const plain = parent === 'NumberHandle' ? 'number' : PLAIN[value ?? ''];
			if (values.length) this.enums.set(name!, new Set(values));
			else if (plain) this.plain.set(name!, plain);
			else {
				const attributes = attributesOf(/constructor\(([\s\S]*?)\);/.exec(body!)?.[1] ?? '');
				this.entities.set(name!, { parent: parent ?? '', attributes });
			}
		}
	}

	/** What is wrong with the instances of a file, in words; at most some. */
	faultsIn(text: string, most = 20): string[] {
		const instances = new Map<string, { entity: string; values: Value[] }>();
		const names = new Map([...this.entities.keys(), ...this.plain.keys()].map((n) => [n.toUpperCase(), n]));
		const faults: string[] = [];
		for (const [, id, entity, values] of text.matchAll(/^(#\d+)=(\w+)\((.*)\);$/gm))
			instances.set(id!, { entity: names.get(entity!) ?? entity!, values: parsed(`(${values})`) as Value[] });
		const used = new Set<string>();
		const fits = (value: Value, type: string): boolean => {
			if (typeof value === 'string' && value.startsWith('#')) {
				used.add(value);
				const found = instances.get(value);
				return found !== undefined && this.is(found.entity, type);
			}
			if (value instanceof Typed) {
				const name = names.get(value.type);
				return name !== undefined && this.is(name, type) && !this.entities.has(type) && fits(value.value, name);
			}
			const values = this.enums.get(type);
			if (values) return typeof value === 'string' && /^\.\w+\.$/.test(value) && values.has(value.slice(1, -1));
			switch (this.plain.get(type) ?? (type === 'number' ? 'number' : undefined)) {
				case 'number':
					return typeof value === 'number' && Number.isFinite(value) && (!type.includes('Positive') || value > 0);
				case 'text':
					return typeof value === 'string' && value.startsWith("'");
				case 'logical':
					return value === '.T.' || value === '.F.' || value === '.U.';
				case 'list':
					return Array.isArray(value);
				default:
					return false;
			}
		};
		for (const [id, { entity, values }] of instances) {
			const known = this.entities.get(entity);
			const tell = (what: string) => faults.length < most && faults.push(`${id} ${entity}: ${what}`);
			if (!known) {
				tell('is no entity of the schema');
				continue;
			}
			// Attributes that follow from others are written as *; the package leaves them out.
			const given = values.filter((v) => v !== '*');
			const attributes = known.attributes;
			if (given.length !== attributes.length && values.length !== attributes.length) {
				tell(`has ${values.length} attributes, ${attributes.length} are right`);
				continue;
			}
			const list = given.length === attributes.length ? given : values;
			attributes.forEach(({ name, types, depth, optional }, k) => {
				const value = list[k]!;
				if (value === '*') return;
				if (value === '$') {
					if (!optional) tell(`${name} is missing`);
					return;
				}
				const leaves = depth === 0 ? [value] : Array.isArray(value) ? value.flat((depth - 1) as 0) : undefined;
				if (!leaves?.length) tell(`${name} is ${JSON.stringify(value)}, a list is right`);
				else {
					const wrong = leaves.find((leaf) => !types.some((type) => fits(leaf as Value, type)));
					if (wrong !== undefined) tell(`${name} is ${JSON.stringify(wrong)}, ${types.join(' or ')} is right`);
				}
			});
			const at = (name: string) => list[attributes.findIndex((a) => a.name === name)];
			// Rule CorrectPredefinedType of elements and their types.
			if (
				at('PredefinedType') === '.USERDEFINED.' &&
				at(entity.endsWith('Type') ? 'ElementType' : 'ObjectType') === '$'
			)
				tell('is of a kind of its own that is not named');
		}
		const rooted = new Set(['IfcProject']);
		for (const [id, { entity }] of instances)
			if (
				!used.has(id) &&
				!entity.startsWith('IfcRel') &&
				!rooted.has(entity) &&
				!/^IfcPresentationLayer|^IfcStyledItem$|^IfcMapConversion$/.test(entity)
			)
				if (faults.length < most) faults.push(`${id} ${entity}: nothing refers to it`);
		return faults;
	}

	/** Whether a type is another, one below it, or one of those that it may be. */
	private is(name: string, type: string): boolean {
		if (name === type) return true;
		const choices = this.selects.get(type);
		if (choices) return choices.some((choice) => this.is(name, choice));
		const parent = this.entities.get(name)?.parent;
		return parent ? this.is(parent, type) : false;
	}
}

function attributesOf(parameters: string): Attribute[] {
	return parameters
		.split(/,\s*(?=\w+: )/)
		.filter(Boolean)
		.map((parameter) => {
			const [, name, declared] = /^(\w+): ([\s\S]+)$/.exec(parameter)!;
			return {
				name: name!,
				depth: declared!.match(/\[\]/g)?.length ?? 0,
				optional: /\| null$/.test(declared!),
				types: declared!
					.replace(/\| null$/, '')
					.replace(/[()[\]]|Handle<\w+>/g, '')
					.split('|')
					.map((t) => t.trim())
					.filter(Boolean)
			};
		});
}

class Typed {
	readonly type: string;
	readonly value: Value;
	constructor(type: string, value: Value) {
		this.type = type;
		this.value = value;
	}
}
type Value = string | number | Typed | Value[];

/** A value of the exchange structure (ISO 10303-21): texts keep their quotes, references their #, enumerations their dots. */
function parsed(text: string): Value {
	let at = 0;
	const value = (): Value => {
		if (text[at] === '(') {
			const list: Value[] = [];
			for (at++; text[at] !== ')';) {
				list.push(value());
				if (text[at] === ',') at++;
			}
			at++;
			return list;
		}
		if (text[at] === "'") {
			const from = at++;
			while (text[at] !== "'" || text[at + 1] === "'") at += text[at] === "'" ? 2 : 1;
			return text.slice(from, ++at);
		}
		const word = /[^,()]*/y;
		word.lastIndex = at;
		const found = word.exec(text)![0];
		at += found.length;
		if (text[at] === '(') return new Typed(found, (value() as Value[])[0]!);
		return /^[-+\d]/.test(found) ? Number(found) : found;
	};
	return value();
}
