import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { ZygasterError } from '../../../src/core/errors.ts';
import { writeJson } from '../../../src/core/formats/json/writeJson.ts';
import { writeLanguageReference } from '../../../src/core/kit/languageReference.ts';
import { writeJsonSchema, writeKitJsonSchema } from '../../../src/core/project/jsonSchema.ts';
import { checkDocument, migrate, readProject } from '../../../src/core/project/read.ts';
import { VERSION } from '../../../src/core/project/schema.ts';
import { starterProject } from '../../../src/core/project/starter.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import fc from 'fast-check';
import { demoProject, demoText, setCount, shippedDemo, vaultOf } from '../demo.ts';

function refusal(work: () => unknown): ZygasterError {
	try {
		work();
	} catch (cause) {
		expect(cause).instanceOf(ZygasterError);
		return cause as ZygasterError;
	}
	throw new Error('nothing was refused');
}

const changed = (change: (p: ReturnType<typeof demoProject>) => void) => () => {
	const project = demoProject();
	change(project);
	return checkDocument(project);
};

describe('reading a project', () => {
	it('gives the same text back', () => {
		expect(writeJson(readProject(demoText))).equal(demoText);
		const starter = starterProject('Nëw');
		expect(readProject(writeJson(starter))).deep.equal(starter);
	});

	it('refuses what is no JSON, no project, or too new, in words', () => {
		expect(refusal(() => readProject('{"format":')).message).match(/^This is not JSON: /);
		expect(refusal(() => readProject('[1]')).message).contains('JSON object');
		expect(refusal(() => readProject('{}')).message).contains('“format” is missing, right would be');
		expect(
			refusal(() => readProject(demoText.replace(`"version": ${VERSION}`, `"version": ${VERSION + 3}`))).message
		).contains(`newer Zygaster (version ${VERSION + 3})`);
		expect(refusal(() => readProject(demoText.replace(`"version": ${VERSION}`, '"version": "1"'))).message).contains(
			`whole number from 1 to ${VERSION}`
		);
	});

	for (const [what, change, words] of [
		['a span of zero', (p) => (vaultOf(p).sections[1]!.span = 0), 'Canopy, section 2, span: must be at least 1 mm'],
		['a length that is no number', (p) => (vaultOf(p).length = NaN), 'Canopy, length'],
		[
			'a length that is no length',
			(p) => Object.assign(p.masses[0]!.shape, { length: 'long' }),
			'Canopy, length: “long” is not a length'
		],
		['a negative count', (p) => setCount(p, 0, 'up', -4), 'Roof skin, up, count: must be at least 1'],
		['half a division', (p) => setCount(p, 0, 'up', 2.5), 'must be a whole number'],
		[
			'100 000 x 100 000 cells',
			(p) =>
				(p.masses[0]!.faces[0]!.settingOut = settingOutOf(
					{ kind: 'count', count: 100_000 },
					{ kind: 'count', count: 100_000 }
				)),
			'the limit is 2 000 000'
		],
		[
			'sections out of order',
			(p) => (vaultOf(p).sections[2]!.at = 0.2),
			'section 3 stands at 0.2, not after section 2 at 0.34'
		],
		['an unknown key', (p) => Object.assign(p, { colour: 'red' }), 'colour'],
		['an unknown kit', (p) => (p.rules[0]!.kit = 'box'), 'there is no kit “box”'],
		[
			'an unknown face',
			(p) => (p.rules[0]!.faces = ['canopy/underside']),
			'there is no face “canopy/underside”; known: canopy/skin'
		],
		['an unknown parameter', (p) => (p.rules[0]!.values = { depth: 3 }), '“Framed pane” has no parameter “depth”'],
		['an unknown material', (p) => (p.materials = []), 'there is no material “glass”'],
		['two kits with one id', (p) => (p.kits[1]!.id = p.kits[0]!.id), '“flat-pane” stands twice'],
		['a broken kit', (p) => Object.assign(p.kits[1]!.steps[1]!, { of: 3 }), 'Framed pane › inner, of'],
		[
			'a default outside its limits',
			(p) => (p.kits[1]!.parameters[0]!.default = -1),
			'the default must lie between least and greatest'
		]
	] as [string, (p: ReturnType<typeof demoProject>) => unknown, string][])
		it(`refuses ${what} and says where`, () => {
			expect(refusal(changed(change)).message).contains(words);
		});

	it('refuses keys that reach for the prototype, and changes nothing', () => {
		const hostile = demoText.replace('"units": "mm"', '"units": "mm", "__proto__": {"polluted": true}');
		try {
			readProject(hostile);
		} catch (cause) {
			expect(cause).instanceOf(ZygasterError);
		}
		expect(({} as { polluted?: boolean }).polluted).undefined;
		expect(refusal(() => readProject(demoText.replace('"units": "mm"', '"constructor": {}'))).message).contains(
			'constructor'
		);
	});

	it('refuses two faces with the same mark, since panels would share theirs', () => {
		const project = demoProject();
		project.masses.push({ ...structuredClone(project.masses[0]!), id: 'second', name: 'Second' });
		expect(refusal(() => checkDocument(project)).message).contains('“C1” is already the mark of Canopy › Roof skin');
	});

	it('leads old documents through every version in turn', () => {
		const steps = {
			1: (d: Record<string, unknown>) => ({ ...d, trail: 'one' }),
			2: (d: Record<string, unknown>) => ({ ...d, trail: `${String(d.trail)}, two` })
		};
		const old = { format: 'zygaster-project', version: 1 };
		expect(migrate(old, steps, 3)).deep.equal({ ...old, version: 3, trail: 'one, two' });
		expect(refusal(() => migrate(old, { 2: steps[2] }, 3)).message).contains('No way leads from version 1 to 2');
	});

	describe('lengths as texts', () => {
		/** Every number of a document, as a way to it. */
		const numbersOf = (value: unknown, path: readonly (string | number)[] = []): (readonly (string | number)[])[] =>
			typeof value === 'number'
				? [path]
				: typeof value === 'object' && value !== null
					? Object.entries(value).flatMap(([key, v]) => numbersOf(v, [...path, key]))
					: [];
		const put = (document: unknown, path: readonly (string | number)[], of: (n: number) => unknown) => {
			let at = document as Record<string | number, unknown>;
			for (const key of path.slice(0, -1)) at = at[key] as typeof at;
			at[path.at(-1)!] = of(at[path.at(-1)!] as number);
		};
		const without = (document: ReturnType<typeof shippedDemo>) => ({ ...document, modules: [], references: [] });

		it('are read into mm and written back as mm', () => {
			const raw = JSON.parse(demoText) as Record<string, never>;
			const at = (path: string) => path.split('/');
			const given: [string, unknown, number][] = [
				['levels/0/height', '10 ft', 3048],
				['masses/0/frame/x', '-5\' 6"', -1676.4],
				['masses/0/faces/0/settingOut/layer', '0.3 m', 300],
				['masses/0/faces/0/borders/leastWidth', '7 1/2 in', 190.5],
				['kits/0/parameters/0/default', '3.5 in', 88.9]
			];
			const plain = structuredClone(raw);
			for (const [path, text, mm] of given) {
				put(raw, at(path), () => text);
				put(plain, at(path), () => mm);
			}
			const read = checkDocument(raw);
			expect(read.levels[0]!.height).closeTo(3048, 1e-9);
			expect(JSON.stringify(read.masses[0]!.frame)).equal(JSON.stringify(checkDocument(plain).masses[0]!.frame));
			expect(readProject(writeJson(read))).deep.equal(read);
			expect(writeJson(read)).not.match(/"(10 ft|0\.3 m)"/);
		});

		it('stand for numbers in rules and in steps of kits', () => {
			const project = shippedDemo();
			const rule = project.rules.find((r) => r.kit === 'framed-pane')!;
			const pane = project.kits.find((k) => k.id === 'framed-pane')!;
			rule.values.frameWidth = '3 1/2"';
			(pane.steps.find((s) => s.name === 'inner') as { distance: unknown }).distance = '0\' 4"';
			const read = checkDocument(project);
			expect(read.rules.find((r) => r.id === rule.id)!.values.frameWidth).closeTo(88.9, 1e-9);
			expect(
				(read.kits.find((k) => k.id === 'framed-pane')!.steps.find((s) => s.name === 'inner') as { distance: unknown })
					.distance
			).closeTo(101.6, 1e-9);
		});

		it('are refused in words where they are none, or too short', () => {
			const wrong = shippedDemo() as unknown as { levels: { height: unknown }[] };
			wrong.levels[0]!.height = 'high';
			expect(refusal(() => checkDocument(wrong)).message).match(
				/^.*, height: “high” is not a length\. Right would be 1500 mm, 1\.5 m or 5' 6"\./
			);
			const short = shippedDemo();
			short.masses[0]!.faces[0]!.settingOut.across.spacing = {
				kind: 'module',
				module: '0.2 mm',
				remainder: 'end'
			} as never;
			expect(refusal(() => checkDocument(short)).message).contains('must be at least 1 mm');
		});

		it('may stand for every number that is a length, and for no other (property: whole demo)', () => {
			const project = without(shippedDemo());
			const expected = JSON.stringify(checkDocument(project));
			// Values of steps are formulas, in which such a text means itself; options of files are read by those who write them.
			const paths = numbersOf(project).filter((path) => !path.includes('steps') && !path.includes('options'));
			let taken = 0;
			fc.assert(
				fc.property(fc.constantFrom(...paths), (path) => {
					const changed = structuredClone(project);
					put(changed, path, (n) => `${n} mm`);
					let read: unknown;
					try {
						read = checkDocument(changed);
					} catch {
						return;
					}
					taken++;
					expect(JSON.stringify(read), path.join('/')).equal(expected);
				}),
				{ numRuns: 300 }
			);
			expect(taken).greaterThan(60);
		});
	});

	it('has the published JSON Schema', () => {
		expect(readFileSync('docs/project.schema.json', 'utf8')).equal(writeJsonSchema());
		expect(readFileSync('docs/kit.schema.json', 'utf8')).equal(writeKitJsonSchema());
		expect(readFileSync('docs/kits.md', 'utf8')).contains(writeLanguageReference());
	});
});
