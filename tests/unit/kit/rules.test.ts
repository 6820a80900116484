import { expect } from 'chai';
import { compileKit } from '../../../src/core/kit/compileKit.ts';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import { kitSchema, type KitInput } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { kitOf, rectangle, run } from './make.ts';

const outline = { kind: 'outline', name: 'outline' } as const;
const part = { role: 'panel', material: 'aluminium' } as const;
const four = { kind: 'cell', corners: 4 } as const;
const length = (name: string, formula?: string): KitInput['parameters'][number] => ({
	quantity: 'length',
	name,
	label: name,
	default: 50,
	least: 0,
	greatest: 500,
	...(formula ? { formula } : {})
});

describe('the rules of a kit', () => {
	it('let steps and parameters stand in any order', async () => {
		const kit = kitOf(
			[
				{ kind: 'sheet', name: 'pane', ...part, outline: 'inner', thickness: 2 },
				{ kind: 'inset', name: 'inner', of: 'outline', distance: 'twice' },
				outline
			],
			[length('twice', '2 * once'), length('once', 'width / 100')]
		);
		expect((await run(kit, rectangle(1000, 800))).total('pane', 'area')).closeTo(960 * 760, 1e-6);
	});

	for (const [what, steps, parameters, words] of [
		[
			'a circle of parameters',
			[outline],
			[length('a', 'b'), length('b', 'c + 1'), length('c', 'a')],
			/circle: a → b → c → a/
		],
		[
			'a circle of steps',
			[outline, { kind: 'inset', name: 'p', of: 'q', distance: 1 }, { kind: 'inset', name: 'q', of: 'p', distance: 1 }],
			[],
			/circle: p → q → p/
		],
		[
			'a circle through a measure',
			[
				outline,
				{ kind: 'inset', name: 'p', of: 'outline', distance: 'd' },
				{ kind: 'value', name: 'd', quantity: 'length', value: 'length(p) / 10' }
			],
			[],
			/circle: p → d → p/
		],
		[
			'units that do not fit',
			[outline, { kind: 'lift', name: 'p', of: 'outline', distance: 'area' }],
			[],
			/Step “p”.*“area” is an area; wanted is a length/
		],
		[
			'a step that is switched off',
			[
				{ ...outline, off: true },
				{ kind: 'corner', name: 'c', corner: 1 },
				{ kind: 'inset', name: 'p', of: 'outline', distance: 1 }
			],
			[],
			/“outline” is switched off/
		],
		[
			'a line on other pieces',
			[
				outline,
				{ kind: 'divide', name: 'grid', of: 'outline', across: 2, up: 2 },
				{ kind: 'sheet', name: 's', on: 'grid', ...part, outline: 'outline', thickness: 1 }
			],
			[],
			/“outline” is a step of the host itself, and this one is on “grid”/
		],
		[
			'pieces that are none',
			[outline, { kind: 'sheet', name: 's', on: 'outline', ...part, outline: 'outline', thickness: 1 }],
			[],
			/runs on “outline”, which gives no pieces/
		],
		['a corner that is not there', [{ kind: 'corner', name: 'c', corner: 5 }], [], /no corner 5; this host has 4/],
		['an inner kit that is missing', [outline, { kind: 'kit', name: 'k', kit: 'nowhere' }], [], /no kit “nowhere”/],
		[
			'an open line where a closed one is wanted',
			[
				outline,
				{ kind: 'side', name: 'e', of: 'outline' },
				{ kind: 'plate', name: 'p', ...part, outline: 'e', thickness: 3 }
			],
			[],
			/“e” is a single point|“e” is open/
		]
	] as [string, KitInput['steps'], KitInput['parameters'], RegExp][])
		it(`name the step at fault: ${what}`, () => {
			expect(() => compileKit(kitOf(steps, parameters), four)).throw(words);
		});

	it('mark the host on which a formula divides by zero, and let the others stand', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'inset', name: 'inner', of: 'outline', distance: '20 mm * 1000 mm / (width - 1000 mm)' },
			{ kind: 'sheet', name: 'pane', ...part, outline: 'inner', thickness: 2 }
		]);
		expect((await run(kit, rectangle(1000, 1000))).failures[0]).match(
			/inner: Distance is no number here: “20 mm \* 1000 mm \/ \(width - 1000 mm\)” divides by zero/
		);
		expect((await run(kit, rectangle(2000, 1000))).total('pane', 'area')).closeTo(1960 * 960, 1e-6);
	});

	it('have steps of their own for other numbers of corners', async () => {
		const kit = kitSchema.parse({
			id: 'both',
			name: 'Both',
			host: { kind: 'cell', leastCorners: 3, greatestCorners: 4 },
			parameters: [],
			steps: [outline, { kind: 'sheet', name: 'pane', ...part, outline: 'outline', thickness: 2 }],
			variants: [
				{
					corners: [3],
					steps: [outline, { kind: 'plate', name: 'filler', ...part, outline: 'outline', thickness: 40 }]
				}
			]
		});
		expect((await run(kit, rectangle(500, 500))).result.parts.map((p) => p.step.name)).deep.equal(['pane']);
		expect(
			(
				await run(kit, {
					kind: 'cell',
					points: [
						[0, 0, 0],
						[500, 0, 0],
						[0, 500, 0]
					]
				})
			).result.parts.map((p) => p.step.name)
		).deep.equal(['filler']);
	});

	it('place other kits within, with values by formula, alternating', async () => {
		const library = new Map(STARTER_KITS.map((k) => [k.id, k]));
		const kit = kitOf(
			[
				outline,
				{ kind: 'divide', name: 'grid', of: 'outline', across: 3, up: 2 },
				{ kind: 'outline', name: 'field', on: 'grid' },
				{
					kind: 'kit',
					name: 'tips',
					on: 'grid',
					kit: 'pyramid',
					when: 'mod(i + j, 2) == 0',
					values: { joint: 0, height: '100 mm * i' }
				},
				{
					kind: 'kit',
					name: 'panes',
					on: 'grid',
					kit: 'flat-pane',
					when: 'mod(i + j, 2) == 1',
					values: { joint: 'shadow' }
				}
			],
			[length('shadow')]
		);
		const made = await run(kit, rectangle(3000, 2000), { shadow: 30 }, { library });
		expect(made.failures).deep.equal([]);
		expect(made.total('pane', 'area')).closeTo(3 * 940 * 940, 1e-3);
		// Pyramids on fields of 1 m, i metres a tenth high: four triangles with a base of 1 m.
		const heights = [1, 3, 2].map((i) => 100 * i);
		expect(made.total('panel', 'area')).closeTo(
			heights.reduce((sum, h) => sum + 2 * 1000 * Math.hypot(500, h), 0),
			1e-3
		);
		// A kit cannot stand in itself.
		const endless = {
			...kit,
			id: 'endless',
			steps: kitOf([outline, { kind: 'kit', name: 'again', kit: 'endless' }]).steps
		};
		expect(() => compileKit(endless, four, { library: new Map([['endless', endless]]) })).throw(/leads back to itself/);
	});

	it('give bars of an inner kit a width of their own on each piece', async () => {
		const library = new Map(STARTER_KITS.map((k) => [k.id, k]));
		const kit = kitOf([
			outline,
			{ kind: 'each', name: 'sides', of: 'outline' },
			{ kind: 'outline', name: 'edge', on: 'sides' },
			{
				kind: 'kit',
				name: 'bars',
				on: 'sides',
				kit: 'mullion',
				values: { width: '10 mm * index', depth: 100, cutBack: 0 }
			}
		]);
		const made = await run(kit, rectangle(1000, 1000), {}, { library });
		// Boxes of 10, 20, 30 and 40 mm by 100 mm with a wall of 3 mm, 1 m long, as weighed and as drawn.
		const boxes = [10, 20, 30, 40].map((w) => (w * 100 - (w - 6) * 94) * 1000);
		expect(made.total('mullion', 'volume')).closeTo(
			boxes.reduce((a, b) => a + b, 0),
			1e-3
		);
		expect(made.meshes('mullion').map((m) => Math.round(meshVolume(m)))).deep.equal(boxes);
	});

	it('hold values of inner kits between their limits', async () => {
		const library = new Map(STARTER_KITS.map((k) => [k.id, k]));
		const kit = kitOf([outline, { kind: 'kit', name: 'panes', kit: 'flat-pane', values: { joint: 900 } }]);
		expect((await run(kit, rectangle(3000, 2000), {}, { library })).total('pane', 'area')).closeTo(2600 * 1600, 1e-3);
	});
});
