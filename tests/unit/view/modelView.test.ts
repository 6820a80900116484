import { expect } from 'chai';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { buffersIn, copyOf } from '../../../src/core/view/buffers.ts';
import { ModelViewer, type ModelUpdate, type ModelView } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { demoWith, fullDemo, run, vaultOf } from '../demo.ts';

const NONE: ReadonlySet<string> = new Set();
const sent = (update: ModelUpdate) => update.faces.filter((f) => typeof f !== 'string').map((f) => f.key);

describe('what crosses to the interface', () => {
	it('is all of a model at first, then the faces that have changed alone', async () => {
		const memo = new Memo(new ArrayPool());
		const viewer = new ModelViewer();
		const project = fullDemo();
		const first = viewer.update(await run(project, { memo }), NONE, 0, undefined);
		expect(sent(first).length).equal(11);
		const view = received(first, undefined);
		const same = viewer.update(await run(fullDemo(), { memo }), NONE, 0, undefined);
		expect([sent(same), buffersIn(same.faces).length]).deep.equal([[], 0]);
		expect(received(same, view).faces.every((f, k) => f === view.faces[k])).to.be.true;
		const edited = fullDemo();
		edited.rules[2]!.values = { frameWidth: 90 };
		const update = viewer.update(await run(edited, { memo }), NONE, 0, undefined);
		expect(sent(update)).deep.equal(['lantern/skin']);
		const next = received(update, received(same, view));
		expect(next.faces.flatMap((f, k) => (f === view.faces[k] ? [] : [k]))).deep.equal([2]);
		expect(next.faces[2]!.hash).not.equal(view.faces[2]!.hash);
	});

	it('follows a face that is hidden, and one that moves far away', async () => {
		const viewer = new ModelViewer();
		const project = demoWith(4, 4);
		const model = await run(project);
		const shown = received(viewer.update(model, NONE, 0, undefined), undefined);
		expect(shown.faces[0]!.batches.length).greaterThan(0);
		const hidden = received(viewer.update(model, new Set(['canopy/skin']), 0, undefined), shown);
		expect([hidden.faces[0]!.hidden, hidden.faces[0]!.batches.length, hidden.bodies.length]).deep.equal([true, 0, 0]);
		// An edit leaves the origin where it is.
		vaultOf(project).length += 4000;
		const longer = viewer.update(await run(project), NONE, 0, undefined);
		expect(longer.origin).deep.equal(shown.origin);
		project.masses[0]!.frame.x += 5_000_000;
		const far = viewer.update(await run(project), NONE, 0, undefined);
		expect(far.origin[0]).closeTo(shown.origin[0] + 5_000_000, 3000);
	});

	it('refuses what is said to be there and is not', async () => {
		const viewer = new ModelViewer();
		const model = await run(demoWith(2, 2));
		viewer.update(model, NONE, 0, undefined);
		const update = viewer.update(model, NONE, 0, undefined);
		expect(() => received(update, undefined as ModelView | undefined)).throw(/has not arrived/);
	});

	it('copies plain data with arrays of its own', () => {
		const pooled = new Float64Array(new ArrayBuffer(800), 0, 3);
		const value = { a: pooled, list: [{ b: Uint8Array.of(1) }], word: 'x', none: undefined };
		const copy = copyOf(value);
		expect(copy).deep.equal(value);
		expect(copy.a.buffer.byteLength).equal(24);
		expect(buffersIn(copy).some((buffer) => buffersIn(value).includes(buffer))).to.be.false;
	});
});
