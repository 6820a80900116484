import { expect } from 'chai';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, sep } from 'node:path';
import { Document, NodeIO } from '@gltf-transform/core';
import { TeapotGeometry } from 'three/addons/geometries/TeapotGeometry.js';
import { importFiles } from '../../../src/cli/import.ts';
import { NODE_READERS } from '../../../src/cli/readers.ts';
import { ZygasterError } from '../../../src/core/errors.ts';
import { detectFormat } from '../../../src/core/formats/modelFiles/detect.ts';
import { meshOfGeometry } from '../../../src/core/formats/modelFiles/geometry.ts';
import { readModelFile, readModelFiles } from '../../../src/core/formats/modelFiles/readModelFile.ts';
import { layPieces, preparePiece } from '../../../src/core/mesh/importMesh.ts';
import { sizeOf } from '../../../src/core/mesh/repair.ts';
import { meshArea } from '../../../src/core/mesh/triangleMesh.ts';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { readProject } from '../../../src/core/project/read.ts';
import { demoWith, run } from '../demo.ts';
import { fileOf } from '../schedules.ts';
import { boxMesh, unwelded } from '../mesh/meshes.ts';

/** Public interoperability files that the package `occt-import-js` carries among its tests. */
const PUBLIC = 'node_modules/occt-import-js/test/testfiles/';
const read = (name: string, bytes = readFileSync(PUBLIC + name)) =>
	readModelFile(name.split('/').at(-1)!, bytes, NODE_READERS);
const text = (s: string) => new TextEncoder().encode(s);
const BOX_OBJ = `o Hall
${[0, 1, 2, 3, 4, 5, 6, 7].map((k) => `v ${k & 1 ? 4 : 0} ${k & 2 ? 3 : 0} ${k & 4 ? 2 : 0}`).join('\n')}
f 1 3 4 2
f 5 6 8 7
f 1 2 6 5
f 3 7 8 4
f 1 5 7 3
f 2 4 8 6
`;

/** A wall 4 m x 0.2 m x 3 m as a small IFC4 file, written by hand after ISO 16739-1. */
const WALL_IFC = `ISO-10303-21;
HEADER;
FILE_DESCRIPTION((''),'2;1');
FILE_NAME('wall.ifc','2026-01-01T00:00:00',(''),(''),'','','');
FILE_SCHEMA(('IFC4'));
ENDSEC;
DATA;
#1=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,(#2),#3);
#2=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-5,#4,$);
#3=IFCUNITASSIGNMENT((#5));
#4=IFCAXIS2PLACEMENT3D(#6,$,$);
#5=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
#6=IFCCARTESIANPOINT((0.,0.,0.));
#7=IFCLOCALPLACEMENT($,#4);
#8=IFCWALL('0000000000000000000002',$,'North wall',$,$,#7,#9,$,$);
#9=IFCPRODUCTDEFINITIONSHAPE($,$,(#10));
#10=IFCSHAPEREPRESENTATION(#2,'Body','SweptSolid',(#11));
#11=IFCEXTRUDEDAREASOLID(#12,#4,#13,3000.);
#12=IFCRECTANGLEPROFILEDEF(.AREA.,$,#14,4000.,200.);
#13=IFCDIRECTION((0.,0.,1.));
#14=IFCAXIS2PLACEMENT2D(#15,$);
#15=IFCCARTESIANPOINT((0.,0.));
ENDSEC;
END-ISO-10303-21;
`;

describe('model files', () => {
	it('reads the public STEP, IGES and BREP files: bodies, faces, sizes, areas', async () => {
		for (const [name, faces, area, size] of [
			['cube-10x10mm/Cube 10x10.stp', 6, 600, 10],
			['cube-10x10mm/Cube 10x10.igs', 6, 600, 10],
			// The same cube of a metre, saved in inches, metres and millimetres.
			['cube-units/cube-in.step', 6, 6e6, 1000],
			['cube-units/cube-m.step', 6, 6e6, 1000],
			['cube-units/cube-mm.step', 6, 6e6, 1000]
		] as const) {
			const { pieces, mm } = await read(name);
			const prepared = pieces.map((p) => preparePiece(p, mm!));
			const laid = layPieces(prepared, { kind: 'file' });
			expect([name, pieces.length, laid.faces.length, Math.round(sizeOf(prepared[0]!.mesh.positions))]).deep.equal([
				name,
				1,
				faces,
				size
			]);
			expect(laid.faces.reduce((sum, f) => sum + f.meshArea, 0) / area).closeTo(1, 1e-6);
		}
		// The CAx-IF assembly: a plate, a rod, two brackets, eight nuts and six bolts.
		const [step, brep] = [await read('cax-if/as1_pe_203.stp'), await read('cax-if-brep/as1_pe_203.brep')];
		expect([step.pieces.length, brep.pieces.length, brep.mm]).deep.equal([18, 18, undefined]);
		const areas = [step, brep].map(({ pieces }) => pieces.reduce((sum, p) => sum + meshArea(p.mesh), 0));
		expect(areas[0]! / areas[1]!).closeTo(1, 1e-6);
	});

	it('brings every public file in, or refuses it in words', async () => {
		const root = 'node_modules/occt-import-js/test/testfiles';
		const out = mkdtempSync(join(tmpdir(), 'zygaster-import-'));
		const files = (readdirSync(root, { recursive: true }) as string[])
			.filter((f) => /\.(stp|step|igs|iges|brep)$/i.test(f))
			// The same assembly stands twice; one kernel's words for it are enough.
			.filter((f) => !f.startsWith(join('cax-if', 'as1-oc-214', sep)))
			// The same parts stand there as one kernel after the other has written them: one is enough here; others are read below.
			.filter(
				(f) => !/s1-tu-203|s1_pe_214|dm1-oc-214|dm1-pe-214|as1-oc-214\.stp|as1_pe_203\.brep|MAINBODY_FRONT/.test(f)
			);
		expect(files.length).greaterThan(23);
		let refused = 0;
		for (const file of files) {
			const options = { out: join(out, 'project.json'), unit: 'mm', crease: undefined };
			const outcome = await importFiles([join(root, file)], options).catch((cause: unknown) => cause);
			if (outcome instanceof Error) {
				expect(outcome, file).instanceOf(ZygasterError);
				expect(outcome.message, file).match(/holds no surface of its own: it puts together “.*Right would be to bring/);
				refused++;
			}
		}
		// Those of the CAx-IF that only put others together.
		expect(refused).equal(5);
	});

	it('reads the files of an assembly together, each where it stands', async () => {
		const root = 'node_modules/occt-import-js/test/testfiles/cax-if/s1_pe_214';
		const named = (name: string) => ({ name, bytes: readFileSync(join(root, name)) });
		const [assembly, back, front] = ['foot_asm.stp', 'foot_back_prt.stp', 'foot_front_prt.stp'].map(named);
		const words = await readModelFiles([assembly!], NODE_READERS).catch((e: Error) => e.message);
		expect(words).contains('“foot_back_prt.stp”, “foot_front_prt.stp”');
		const together = await readModelFiles([assembly!, back!, front!], NODE_READERS);
		const apart = [await readModelFiles([back!], NODE_READERS), await readModelFiles([front!], NODE_READERS)];
		expect(together.pieces.map((p) => p.name)).deep.equal(apart.flatMap((c) => c.pieces.map((p) => p.name)));
		expect(together.pieces.map((p) => meshArea(p.mesh))).deep.equal(
			apart.flatMap((c) => c.pieces.map((p) => meshArea(p.mesh)))
		);
	});

	it('reads STL, OBJ and PLY alike: a box of 4 x 3 x 2', async () => {
		const box = unwelded(boxMesh(4, 3, 2));
		const stl = new DataView(new ArrayBuffer(84 + 50 * 12));
		stl.setUint32(80, 12, true);
		for (let t = 0; t < 12; t++)
			for (let k = 0; k < 9; k++) stl.setFloat32(84 + t * 50 + 12 + k * 4, box.positions[t * 9 + k]!, true);
		const ply = `ply\nformat ascii 1.0\nelement vertex 36\nproperty float x\nproperty float y\nproperty float z\nelement face 12\nproperty list uchar int vertex_indices\nend_header\n${Array.from({ length: 36 }, (_, v) => [...box.positions.subarray(v * 3, v * 3 + 3)].join(' ')).join('\n')}\n${Array.from({ length: 12 }, (_, t) => `3 ${t * 3} ${t * 3 + 1} ${t * 3 + 2}`).join('\n')}\n`;
		for (const [name, bytes] of [
			['box.stl', new Uint8Array(stl.buffer)],
			['box.obj', text(BOX_OBJ)],
			['box.ply', text(ply)]
		] as const) {
			const { pieces, mm } = await readModelFile(name, bytes, NODE_READERS);
			const { faces } = layPieces([preparePiece(pieces[0]!, 1000)], { kind: 'crease', angle: 0.5 });
			expect([name, mm, faces.length]).deep.equal([name, undefined, 6]);
			expect(faces.reduce((sum, f) => sum + f.meshArea, 0)).closeTo(52e6, 1);
		}
	});

	it('reads an IFC wall where it stands, z up, in its own unit', async () => {
		const { pieces, mm } = await readModelFile('wall.ifc', text(WALL_IFC), NODE_READERS);
		expect([mm, pieces.map((p) => p.name)]).deep.equal([1000, ['North wall (wall)']]);
		const { mesh } = preparePiece(pieces[0]!, mm!);
		const heights = mesh.positions.filter((_, o) => o % 3 === 2);
		expect([Math.min(...heights), Math.max(...heights)].map(Math.round)).deep.equal([0, 3000]);
		expect(meshArea(mesh)).closeTo(2 * (4000 * 3000 + 200 * 3000 + 4000 * 200), 10);
	});

	it('reads back the GLB that it wrote: the same area of every material', async () => {
		const project = demoWith(6, 8);
		const model = await run(project);
		const { pieces, mm } = await readModelFile('model.glb', await fileOf(project, model, 'glb'), NODE_READERS);
		for (const { name, mesh } of pieces) {
			const material = project.materials.find((m) => m.name === name)!.id;
			const written = summarise(project, model)
				.parts.filter((p) => p.material === material)
				.reduce((sum, p) => sum + p.areaM2, 0);
			expect((meshArea(mesh) * mm! ** 2) / 1e6).closeTo(written, written * 1e-5);
		}
		expect(pieces.length).equal(2);
	});

	it('reads a glTF text with its data in it, and refuses one that points elsewhere', async () => {
		const document = new Document();
		const buffer = document.createBuffer();
		const positions = document
			.createAccessor()
			.setType('VEC3')
			.setArray(Float32Array.of(0, 0, 0, 2, 0, 0, 0, 2, 0))
			.setBuffer(buffer);
		document
			.createScene()
			.addChild(
				document
					.createNode('Sail')
					.setMesh(document.createMesh().addPrimitive(document.createPrimitive().setAttribute('POSITION', positions)))
			);
		const { json, resources } = await new NodeIO().writeJSON(document, {});
		json.buffers![0]!.uri = `data:application/octet-stream;base64,${Buffer.from(Object.values(resources)[0]!).toString('base64')}`;
		const { pieces } = await readModelFile('sail.gltf', text(JSON.stringify(json)), NODE_READERS);
		// The file's y is up, ours is z.
		expect([pieces[0]!.name, ...pieces[0]!.mesh.positions.map((x) => x + 0)]).deep.equal([
			'Sail',
			0,
			0,
			0,
			2,
			0,
			0,
			0,
			0,
			2
		]);
		json.buffers![0]!.uri = 'elsewhere.bin';
		const refused = await readModelFile('sail.gltf', text(JSON.stringify(json)), NODE_READERS).catch(
			(e: Error) => e.message
		);
		expect(refused).contains('refers to “elsewhere.bin”');
	});

	it('lays over or names every face of the classic teapot (stress; its patches come with three)', () => {
		const mesh = meshOfGeometry(new TeapotGeometry(1000, 8));
		const { report } = layPieces([preparePiece({ name: 'Teapot', mesh }, 1)], { kind: 'crease', angle: 0.6 });
		expect(report.faces.length).greaterThan(2);
		const laid = report.faces.reduce((sum, f) => sum + f.areaM2, 0);
		expect(laid / (meshArea(mesh) / 1e6)).within(0.5, 1.01);
		expect(report.faces.length + report.left.length).greaterThan(3);
	});

	for (const [what, name, bytes, words] of [
		['an empty file', 'a.step', new Uint8Array(), '“a.step” is empty.'],
		['a packed file', 'a.obj', text('PK\u0003\u0004....'), 'is packed; unpack it'],
		['a wrong ending', 'photo.stl', text('\u0089PNG....'), 'is named like STL but does not hold it'],
		['no model at all', 'notes.txt', text('hello'), 'is no model file that can be read; right would be STEP, IGES'],
		[
			'a truncated STEP file',
			'cut.step',
			text("ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\n#1=CART"),
			'cut off or damaged'
		],
		['a cloud of points', 'points.obj', text('v 0 0 0\nv 1 0 0\nv 0 1 0\n'), 'holds no surface'],
		['a truncated GLB', 'cut.glb', text('glTF\u0002\u0000\u0000\u0000'), 'cannot be read as GLB']
	] as const)
		it(`refuses ${what} in words`, async () => {
			const message = await readModelFile(name, bytes, NODE_READERS).then(
				() => 'nothing was refused',
				(e: Error) => e.message
			);
			expect(message).contains(words);
		});

	it('goes by what a file holds, not by its name', () => {
		expect(detectFormat('wall.step', text(WALL_IFC))).equal('ifc');
		expect(detectFormat('box.txt', text(BOX_OBJ))).equal('obj');
	});
});

describe('the import command', () => {
	let out: string;
	before(() => (out = mkdtempSync(join(tmpdir(), 'zygaster-import-'))));
	after(() => rmSync(out, { recursive: true }));

	it('makes a sound project with the file’s faces and tells of them', async () => {
		const file = join(out, 'hall.obj');
		writeFileSync(file, BOX_OBJ);
		const target = join(out, 'hall.json');
		const summary = await importFiles([file], { out: target, unit: 'm', crease: undefined });
		expect([summary.unit, summary.pieces, summary.faces.length, summary.hint]).deep.equal([
			{ mm: 1000, from: 'option' },
			['Hall'],
			6,
			undefined
		]);
		expect(summary.faces.map((f) => f.corners.length)).deep.equal([4, 4, 4, 4, 4, 4]);
		const model = await run(readProject(readFileSync(target, 'utf8')));
		expect(model.warnings).deep.equal([]);
		expect(
			summarise(readProject(readFileSync(target, 'utf8')), model).faces.reduce((sum, f) => sum + f.cellAreaM2, 0)
		).closeTo(52, 1e-6);
	});

	it('asks for the unit where the file does not tell, and refuses what it does not know', async () => {
		const file = join(out, 'hall.obj');
		const refusal = (unit: string | undefined, crease?: string) =>
			importFiles([file], { out: join(out, 'x.json'), unit, crease }).catch((e: Error) => e.message);
		expect(await refusal(undefined)).contains('does not tell its unit; add --unit with one of mm, cm, m, in, ft');
		expect(await refusal('parsec')).contains('--unit parsec is unknown');
		expect(await refusal('m', 'wide')).contains('--crease wide is no angle');
		expect(
			await importFiles([join(out, 'none.obj')], { out, unit: 'm', crease: undefined }).catch((e: Error) => e.message)
		).contains('cannot be read');
	});
});
