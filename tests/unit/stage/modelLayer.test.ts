import { expect } from 'chai';
import { LineSegments, Mesh, type BufferGeometry, type Material, type Object3D } from 'three';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { curveSegments } from '../../../src/core/readings/edgeCurves.ts';
import { closestPointFinder } from '../../../src/core/geometry/closestPoint.ts';
import { ModelViewer, type EarlyView, type ModelView } from '../../../src/core/view/modelView.ts';
import { received, receivedEarly } from '../../../src/core/view/received.ts';
import { ModelLayer, type ModelLook } from '../../../src/lib/stage/modelLayer.ts';
import { demoWith, fullDemo, run } from '../demo.ts';
import { PLAIN_LOOK } from './look.ts';

const LOOK: ModelLook = { ...PLAIN_LOOK, materials: [{ id: 'glass', colour: '#8FB8C4', opacity: 0.6 }] };

describe('the model in space', () => {
	/** Views of the demo before and after an edit of the lantern's kit. */
	async function twoViews(): Promise<[ModelView, ModelView]> {
		const memo = new Memo(new ArrayPool());
		const viewer = new ModelViewer();
		const first = received(viewer.update(await run(fullDemo(), { memo }), new Set(), 0, undefined), undefined);
		const project = fullDemo();
		project.rules[2]!.values = { frameWidth: 66 };
		return [first, received(viewer.update(await run(project, { memo }), new Set(), 0, undefined), first)];
	}
	const materialsOf = (object: Object3D) => {
		const found = new Set<Material>();
		object.traverse((part) => {
			const { material } = part as Partial<Mesh<BufferGeometry, Material>>;
			if (material) found.add(material);
		});
		return found;
	};

	it('makes anew what has changed, and keeps all else, and every shader', async () => {
		const [first, second] = await twoViews();
		const layer = new ModelLayer();
		layer.show(first, LOOK);
		const before = new Set(layer.object.children);
		const materials = materialsOf(layer.object);
		layer.show(second, LOOK);
		// Parts and lines of eleven faces; the lines of a face whose kit has changed stay.
		expect(layer.object.children.length).equal(22);
		expect(layer.object.children.filter((child) => !before.has(child)).length).equal(1);
		expect([...materialsOf(layer.object)].every((m) => materials.has(m))).to.be.true;
		layer.show(second, LOOK);
		expect(layer.object.children.filter((child) => !before.has(child)).length).equal(1);
		layer.clear();
		expect(layer.object.children.length).equal(0);
		// A layer made later draws with the same materials.
		const other = new ModelLayer();
		other.show(first, LOOK);
		expect([...materialsOf(other.object)].every((m) => materials.has(m))).to.be.true;
	});

	it('draws the lines of bare surfaces as they follow these, a little nearer to the eye', async () => {
		const model = await run(demoWith(6, 8));
		const view = received(new ModelViewer().update(model, new Set(), 0, undefined), undefined);
		const [face] = model.faces;
		const [{ linesHash }] = view.faces as [ModelView['faces'][number]];
		const layer = new ModelLayer();
		const curves = new Map([[linesHash, curveSegments(face!, view.origin)]]);
		layer.show(view, { ...LOOK, bare: true, curves });
		const lines = layer.object.children.find((child) => child instanceof LineSegments) as LineSegments;
		const drawn = lines.geometry.getAttribute('position');
		expect(drawn.count).within(face!.cells.edgeCount * 4, face!.cells.edgeCount * 16);
		// Straight lines of this division dip by centimetres under the face; these lie on it.
		const nearest = closestPointFinder(face!.surface);
		for (let k = 0; k < drawn.count; k += 37) {
			const at = [drawn.getX(k), drawn.getY(k), drawn.getZ(k)].map((x, c) => x + view.origin[c]!) as [
				number,
				number,
				number
			];
			const { position } = nearest(at);
			expect(Math.hypot(...at.map((x, c) => x - position[c]!))).lessThan(0.05);
		}
		const shader = { vertexShader: '#include <project_vertex>' };
		(lines.material as Material).onBeforeCompile(shader as never, undefined as never);
		expect(shader.vertexShader).contains('mvPosition.xyz * 0.9960');
	});

	it('has nothing new to draw when the model comes of bare faces that are in the picture', async () => {
		const viewer = new ModelViewer();
		const early: EarlyView[] = [];
		const model = await run(fullDemo(), {
			memo: new Memo(),
			divided: (bodies, faces) =>
				early.push(receivedEarly(viewer.early(bodies, faces, new Set(), new Set()), undefined))
		});
		const [{ origin, bodies, lines }] = early as [EarlyView];
		const view = received(viewer.update(model, new Set(), 0, undefined), undefined);
		const look = { ...LOOK, bare: true, curves: new Map(lines.map(({ hash, segments }) => [hash, segments!])) };
		const layer = new ModelLayer();
		expect(layer.show({ origin, bodies, faces: [], early: lines }, look)).equal(true);
		// Lines and surfaces of eleven faces.
		expect(layer.object.children.length).equal(22);
		expect(layer.show(view, look)).equal(false);
		expect(layer.show({ ...view, faces: view.faces.slice(1) }, look)).equal(true);
		// Before the first model, they are plain where masses are not made.
		const plain = new ModelLayer();
		plain.show({ origin, bodies, faces: [], early: lines }, { ...look, bare: false });
		expect(plain.object.children.length).equal(22);
	});

	it('hides faces with all that stands on them, and shows others plain beside coloured ones', async () => {
		const model = await run(fullDemo());
		const hidden = received(new ModelViewer().update(model, new Set(['lantern/skin']), 0, undefined), undefined);
		const layer = new ModelLayer();
		layer.show(hidden, LOOK);
		expect(layer.object.children.length).equal(20);
		layer.show(hidden, { ...LOOK, coloured: new Set(['canopy/skin']) });
		// Lines of ten faces, nine of them as plain surfaces.
		expect(layer.object.children.filter((child) => child instanceof LineSegments).length).equal(10);
		expect(layer.object.children.filter((child) => child instanceof Mesh).length).equal(9);
	});
});
