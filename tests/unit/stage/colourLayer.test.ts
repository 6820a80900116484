import { expect } from 'chai';
import { Mesh, type BufferGeometry, type Object3D } from 'three';
import { nearAndFar } from '../../../src/core/project/coarseCells.ts';
import type { HostKind } from '../../../src/core/readings/definition.ts';
import { ModelViewer } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { ColourLayer, type Colouring } from '../../../src/lib/stage/colourLayer.ts';
import { demoWith, run } from '../demo.ts';

const PALETTE = ['#000000', '#ff0000', '#00ff00', '#0000ff'];

/** A roof whose cells, edges or nodes have classes that follow each other. */
async function roof(host: HostKind) {
	const project = demoWith(60, 80);
	project.rules = [];
	const model = await run(project);
	const view = received(new ModelViewer().update(model, new Set(), 0, undefined), undefined);
	const face = view.faces[0]!;
	const count = { cell: face.cellCount, edge: face.edgeCount, node: face.nodes.length / 3 }[host as 'cell'];
	const classes = Uint8Array.from({ length: count }, (_, k) => k % PALETTE.length);
	const mesh = nearAndFar(model.faces[0]!, view.origin);
	const colouring: Colouring = { host, faces: [{ face, mesh, classes }], palette: PALETTE, none: '#888888' };
	return { colouring, mesh, classes };
}

/** What is drawn just now. */
function seen(layer: ColourLayer): (Object3D & { readonly geometry: BufferGeometry })[] {
	const found: (Object3D & { readonly geometry: BufferGeometry })[] = [];
	layer.object.traverseVisible((o) => 'geometry' in o && found.push(o as (typeof found)[number]));
	return found;
}

describe('colours in space', () => {
	it('are those of its cell for every triangle, near and far', async () => {
		const { colouring, mesh, classes } = await roof('cell');
		const layer = new ColourLayer();
		layer.show(colouring);
		for (const [coarse, cells] of [
			[false, mesh],
			[true, mesh.far]
		] as const) {
			layer.setCoarse(coarse);
			const [drawn, ...others] = seen(layer);
			expect(others.length).equal(0);
			const uv = drawn!.geometry.getAttribute('uv').array;
			expect(uv.length).equal(cells.cellOf.length * 6);
			// Texels are numbered by class.
			cells.cellOf.forEach((cell, t) => {
				for (let k = 0; k < 3; k++) expect(Math.floor(uv[t * 6 + k * 2]! * 256)).equal(classes[cell]);
			});
		}
		expect(mesh.far.cellOf.length).below(mesh.cellOf.length / 8);
	});

	it('keep the triangles of faces that stay, and take away what is not wanted', async () => {
		const { colouring } = await roof('cell');
		const layer = new ColourLayer();
		layer.show(colouring);
		const [before] = seen(layer);
		layer.show({ ...colouring, palette: [...PALETTE].reverse() });
		expect(seen(layer)[0]).equal(before);
		layer.show(undefined);
		expect(seen(layer)).deep.equal([]);
		layer.setCoarse(true);
		expect(seen(layer)).deep.equal([]);
	});

	for (const host of ['edge', 'node'] as const)
		it(`stand on as many ${host}s as show how they lie, while it is turned slowly`, async () => {
			const { colouring, classes } = await roof(host);
			const layer = new ColourLayer();
			layer.show(colouring);
			const countOf = () => {
				const { geometry } = seen(layer).find((o) => !(o instanceof Mesh) || 'isLineSegments2' in o)!;
				return host === 'edge' ? geometry.getAttribute('instanceStart').count : geometry.getAttribute('position').count;
			};
			expect(countOf()).equal(classes.length);
			layer.setCoarse(true);
			expect(countOf()).equal(4000);
			expect(seen(layer).length).equal(2);
			layer.dispose();
		});
});
