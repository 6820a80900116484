import { expect } from 'chai';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { limitValues } from '../../../src/core/placement/limits.ts';
import { placeKit, type Placed } from '../../../src/core/placement/place.ts';
import { demoWith, run } from '../demo.ts';
import { solids } from '../kit/make.ts';

const plain = ({ placements, failures, misfits, clamped }: Placed) => ({
	failures,
	misfits,
	clamped,
	placements: placements.map(({ hosts, values, parts }) => ({ hosts, values, parts }))
});

describe('programs of kits that are kept', () => {
	for (const kit of STARTER_KITS)
		it(`place ${kit.id} as one compiled anew does, whatever was placed between`, async () => {
			const [model] = (await run(demoWith(5, 4))).faces;
			const face = { ...model!, surface: model!.charted.surface, layer: 400 };
			const library = new Map(STARTER_KITS.map((k) => [k.id, k]));
			const options = { library, modules: new Map(), densities: {}, solids: await solids() };
			const asked = [{}, ...limitValues(kit).slice(0, 3), {}];
			for (const given of asked) {
				const place = (more: object) => plain(placeKit(kit, given, face, { ...options, ...more }));
				expect(place({ compiled: `kept ${kit.id}` })).deep.equal(place({}));
			}
		});
});
