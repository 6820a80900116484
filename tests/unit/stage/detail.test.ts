import { expect } from 'chai';
import { PerspectiveCamera } from 'three';
import { Memo } from '../../../src/core/project/memo.ts';
import { cellMesh } from '../../../src/core/project/cellMesh.ts';
import { ModelViewer } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { DetailChoice, mainMaterial } from '../../../src/lib/stage/detail.ts';
import { ModelLayer } from '../../../src/lib/stage/modelLayer.ts';
import { demoWith, run } from '../demo.ts';
import { PLAIN_LOOK } from './look.ts';

async function viewOf(across: number, up: number) {
	const model = await run(demoWith(across, up), { memo: new Memo() });
	return { model, view: received(new ModelViewer().update(model, new Set(), 0, undefined), undefined) };
}

function cameraAt(metres: number): PerspectiveCamera {
	const camera = new PerspectiveCamera(32, 1.6, 0.1, 10_000);
	camera.position.set(0, -metres, 0);
	return camera;
}

describe('how much of a model is drawn', () => {
	it('is everything near by, panes where cells are a few pixels, and what is chosen by hand wherever', async () => {
		const { view } = await viewOf(24, 48);
		const choice = new DetailChoice();
		choice.setModel(view);
		const { hash } = view.faces[0]!;
		const at = (metres: number, detail: Parameters<DetailChoice['levels']>[0] = 'auto', moving = false) =>
			choice.levels(detail, cameraAt(metres), 800, moving).get(hash);
		expect([at(40), at(120), at(5000)]).to.deep.equal(['full', 'full', 'panes']);
		expect([at(5000, 'full'), at(40, 'panes'), at(40, 'outlines')]).to.deep.equal(['full', 'panes', 'outlines']);
		// A model of so few triangles is turned in full.
		expect(at(40, 'auto', true)).to.equal('full');
	});

	it('is panes while a large model is turned, and everything once it stands still', async () => {
		// 24,000 framed panes have 18 triangles each, and are above what is turned in full.
		const { view } = await viewOf(120, 200);
		const choice = new DetailChoice();
		choice.setModel({
			...view,
			faces: view.faces.map((f) => ({
				...f,
				batches: f.batches.map((b) => ({ ...b, indices: new Uint32Array(Math.max(b.indices.length, 450_000 * 3)) }))
			}))
		});
		const { hash } = view.faces[0]!;
		const levels = [true, false].map((moving) => choice.levels('auto', cameraAt(30), 800, moving).get(hash));
		expect(levels).to.deep.equal(['panes', 'full']);
	});

	it('shows parts or panes of a face, and its lines either way', async () => {
		const { model, view } = await viewOf(6, 5);
		const { hash } = view.faces[0]!;
		const panes = new Map([[hash, cellMesh(model.faces[0]!, view.origin)]]);
		const layer = new ModelLayer();
		layer.show(view, { ...PLAIN_LOOK, panes });
		const seen = () => layer.object.children.map((c) => c.visible);
		layer.setLevels(new Map([[hash, 'full']]));
		const full = seen();
		layer.setLevels(new Map([[hash, 'panes']]));
		const plain = seen();
		layer.setLevels(new Map([[hash, 'outlines']]));
		const outlines = seen();
		const count = (list: boolean[]) => list.filter(Boolean).length;
		expect([count(full), count(plain), count(outlines)]).to.deep.equal([2, 2, 1]);
		expect(full).not.to.deep.equal(plain);
		// Most of a framed pane is glass.
		expect(mainMaterial(view.faces[0]!)).to.equal('glass');
	});
});
