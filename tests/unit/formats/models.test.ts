import { createHash } from 'node:crypto';
import { createRequire } from 'node:module';
import { expect } from 'chai';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import type { Mesh as ThreeMesh } from 'three';
import { FORMATS } from '../../../src/core/formats/format.ts';
import { WRITERS } from '../../../src/core/formats/writers.ts';
import { READY_TABLES } from '../../../src/core/schedule/own/ready.ts';
import { ownTableSchema } from '../../../src/core/schedule/own/schema.ts';
import { eachMesh } from '../../../src/core/formats/eachMesh.ts';
import { ByteWriter } from '../../../src/core/formats/byteWriter.ts';
import { globalIdsIn } from '../../../src/core/formats/ifc/globalId.ts';
import { stepText } from '../../../src/core/formats/step/stepText.ts';
import { readIfc, type IfcPort } from '../../../src/core/formats/ifc/readIfc.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { plateSize } from '../../../src/core/kit/plates.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { demoWith, run, setRules, shippedDemo } from '../demo.ts';
import { writeFormat } from '../../../src/core/formats/writers.ts';
import { fileOf } from '../schedules.ts';

const load = createRequire(import.meta.url);

/** Area and volume (that of closed bodies) of triangles, by hand; stride 3. */
function measured(positions: ArrayLike<number>, triangles: ArrayLike<number>) {
	let [area, volume] = [0, 0];
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((x) => positions[triangles[t + k]! * 3 + x]!));
		const u = b!.map((x, k) => x - a![k]!);
		const v = c!.map((x, k) => x - a![k]!);
		const n = [0, 1, 2].map((k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!);
		area += Math.hypot(...n) / 2;
		volume += (a![0]! * n[0]! + a![1]! * n[1]! + a![2]! * n[2]!) / 6;
	}
	return { area, volume };
}

/** The id of a part of something, as it is written. */
function globalId(scope: string, name: string, part: number): string {
	let text = '';
	const out = new ByteWriter((bytes) => (text += Buffer.from(bytes).toString()));
	globalIdsIn(scope)(name).put(out, part);
	out.finish();
	return text;
}

/** A small canopy with panes, mullions and discs: patterns, bars and equal bodies. */
async function small(): Promise<{ project: Project; model: Model }> {
	const project = demoWith(4, 3);
	const ids = ['framed-pane', 'mullion', 'node-disc', 'louver-bank'];
	const kits = ids.map((id) => STARTER_KITS.find((k) => k.id === id)!);
	project.kits = kits;
	project.materials = shippedDemo().materials;
	project.tables = [];
	project.costs = { currency: 'EUR', rates: [], sheet: [3000, 1500], sealant: 0 };
	setRules(
		project,
		ids.map((kit, k) => ({ id: `r${k}`, face: 'canopy/skin', kit, values: {} }))
	);
	project.levels = [
		{ id: 'ground', name: 'Ground “0”', height: 0 },
		{ id: 'high', name: 'Höchste', height: 1_000_000 }
	];
	return { project, model: await run(project) };
}

function allMeshes({ project, model }: { project: Project; model: Model }) {
	const found: { mark: string; area: number; volume: number; triangles: number }[] = [];
	eachMesh(project, model, ({ mark }, { positions, triangles }) =>
		found.push({ mark, ...measured(positions, triangles), triangles: triangles.length / 3 })
	);
	return found;
}

describe('meshes of pieces', () => {
	it('have the volume and the surface of closed bars that the table of parts says', async () => {
		const { project, model } = await small();
		let bars = 0;
		eachMesh(project, model, (words, { positions, triangles }, table, r) => {
			const { part } = table.parts[table.part[r]!]!;
			const { volume } = measured(positions, triangles);
			if (part.kind !== 'bar' || words.kit !== 'Rectangular mullion') return;
			bars++;
			expect(volume / table.columns.volume![r]!, words.mark).closeTo(1, 1e-6);
		});
		// 4 x 3 fields have 4 x 4 + 5 x 3 edges.
		expect(bars).equal(31);
	});

	it('are all of the piece’s triangles: none is left out, none is twice', async () => {
		const all = await small();
		const glbTriangles = all.model.faces.reduce(
			(n, f) =>
				n +
				f.placements.reduce(
					(m, p) =>
						m +
						p.parts.reduce((s, { geometry, pieces }) => {
							if (geometry.kind === 'pattern')
								return (
									s +
									(geometry.triangles.length / 3) *
										[...pieces.keys()].filter((h) => pieces[h]! > 0 && geometry.present?.[h] !== 0).length
								);
							if (geometry.kind === 'instances') return s + (geometry.mesh.triangles.length / 3) * geometry.rows.length;
							if (geometry.kind === 'loose') return s + geometry.triangles.length / 3;
							if (geometry.kind === 'plates')
								return s + [...geometry.rows.keys()].reduce((n, k) => n + plateSize(geometry, k).corners / 3, 0);
							return s;
						}, 0),
					0
				),
			0
		);
		expect(allMeshes(all).reduce((n, m) => n + m.triangles, 0)).equal(glbTriangles);
	});

	it('come back from OBJ, STL and PLY with the same area, named by their marks (loaders of package three)', async () => {
		const all = await small();
		const meshes = allMeshes(all);
		const area = meshes.reduce((s, m) => s + m.area, 0);
		const areaOf = (geometry: ThreeMesh['geometry']) => {
			const { array } = geometry.attributes.position!;
			const index = geometry.index?.array ?? Uint32Array.from({ length: array.length / 3 }, (_, k) => k);
			return measured(array, index).area;
		};
		const obj = new OBJLoader().parse(new TextDecoder().decode(await fileOf(all.project, all.model, 'obj')));
		expect(obj.children.map((c) => c.name)).deep.equal(meshes.map((m) => m.mark.replace(/\s+/g, '_')));
		expect(obj.children.reduce((s, c) => s + areaOf((c as ThreeMesh).geometry), 0) / area).closeTo(1, 1e-4);
		const stl = new STLLoader().parse((await fileOf(all.project, all.model, 'stl', { units: 'm' })).buffer);
		expect((areaOf(stl) * 1e6) / area).closeTo(1, 1e-4);
		const ply = new PLYLoader().parse((await fileOf(all.project, all.model, 'ply')).buffer);
		expect(areaOf(ply) / area).closeTo(1, 1e-4);
		expect(ply.attributes.color!.count).equal(ply.attributes.position!.count);
	});

	it('are the same bytes each time in every format', async () => {
		const { project, model } = await small();
		const again = await run(project);
		project.tables = [ownTableSchema.parse({ id: 'all', ...READY_TABLES.find((t) => t.name === 'Types of pieces')! })];
		for (const format of FORMATS.filter((f) => WRITERS[f].missing({ project, model }) === undefined)) {
			const options = format === 'tables' ? { table: 'all' } : {};
			const one = await fileOf(project, model, format, options);
			const two = await fileOf(project, again, format, options);
			expect(Buffer.from(one).equals(Buffer.from(two)), format).to.be.true;
		}
	});

	it('stand in 3MF as objects of their own, each put up once', async () => {
		const all = await small();
		const files = unzipSync(await fileOf(all.project, all.model, '3mf'));
		expect(Object.keys(files)).deep.equal(['[Content_Types].xml', '_rels/.rels', '3D/3dmodel.model']);
		const xml = new TextDecoder().decode(files['3D/3dmodel.model']);
		const names = [...xml.matchAll(/<object id="(\d+)" type="\w+" name="([^"]*)"/g)];
		expect(names.map((m) => m[2])).deep.equal(allMeshes(all).map((m) => m.mark));
		expect([...xml.matchAll(/<item objectid="(\d+)"/g)].map((m) => m[1])).deep.equal(names.map((m) => m[1]));
		expect([...xml.matchAll(/<triangle /g)].length).equal(allMeshes(all).reduce((n, m) => n + m.triangles, 0));
	});

	it('are bodies in 3MF where they are closed, and surfaces where they are not (core specification 1.3, memory)', async () => {
		const { project } = await small();
		// A sheet, a folded bar, and a plate of many fields that do not share their points.
		const ids = ['framed-pane', 'mullion', 'perforated-screen'];
		project.kits = ids.map((id) => STARTER_KITS.find((k) => k.id === id)!);
		setRules(
			project,
			ids.map((kit, k) => ({ id: `r${k}`, face: 'canopy/skin', kit, values: {} }))
		);
		const files = unzipSync(await fileOf(project, await run(project), '3mf'));
		const xml = new TextDecoder().decode(files['3D/3dmodel.model']);
		const objects = [...xml.matchAll(/<object id="\d+" type="(\w+)" name="([^"]*)"(.*?)<\/object>/g)];
		for (const [, type, name, body] of objects) {
			const sides = new Map<string, number>();
			for (const [, ...corners] of body!.matchAll(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"\/>/g))
				corners.forEach((a, k) => {
					const side = `${a} ${corners[(k + 1) % 3]}`;
					sides.set(side, (sides.get(side) ?? 0) + 1);
				});
			// Every side once, and once the other way.
			const closed = [...sides].every(([side, n]) => n === 1 && sides.get(side.split(' ').reverse().join(' ')) === 1);
			expect(type, name).equal(closed ? 'model' : 'surface');
			expect(type, name).equal(/:(pane|frame|reveal)/.test(name!) ? 'surface' : 'model');
		}
		expect(new Set(objects.map((o) => o[1])).size).equal(2);
	});
});

describe('building models', () => {
	it('write texts of every script as ISO 10303-21 does', () => {
		// By hand: U+00E9 is 00E9; an emoji is two UTF-16 codes.
		expect(stepText("it's a \\ café")).equal("'it''s a \\\\ caf\\X2\\00E9\\X0\\'");
		expect(stepText('ab😀')).equal("'ab\\X2\\D83DDE00\\X0\\'");
	});

	it('give what is named alike the same id, and no two parts one', () => {
		const all = Array.from({ length: 8 }, (_, part) => globalId('a project', 'a piece', part));
		expect(new Set(all).size).equal(8);
		expect(all.every((id) => /^'[0-3][0-9A-Za-z_$]{21}'$/.test(id))).to.be.true;
		expect(globalId('a project', 'a piece', 0)).equal(all[0]);
		expect(globalId('another', 'a piece', 0)).not.equal(all[0]);
	});

	it('take the id of a name from its first 128 bits of SHA-256 (by the hash of Node, whatever was hashed before)', () => {
		// Digits and order of ISO 16739-1, IfcGloballyUniqueId: the number to the base 64, its 22 digits from the highest.
		const digits = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';
		fc.assert(
			fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), fc.string({ maxLength: 70 }), (name, scope) => {
				let number = BigInt(`0x${createHash('sha256').update(`${scope} ${name}`).digest('hex').slice(0, 32)}`);
				let text = '';
				for (let k = 0; k < 22; k++, number >>= 6n) text = digits[Number(number & 63n)]! + text;
				expect(globalId(scope, name, 0)).equal(`'${text}'`);
			})
		);
	});

	it('come back with every product, its geometry, quantities and type (read by package web-ifc)', async () => {
		const { project, model } = await small();
		const bytes = await fileOf(project, model, 'ifc');
		const { IfcAPI, IFCPLATE, IFCMEMBER, IFCSHADINGDEVICE, IFCDISCRETEACCESSORY, IFCROOT, IFCRELDEFINESBYPROPERTIES } =
			load('web-ifc') as typeof import('web-ifc');
		const ifc = new IfcAPI();
		await ifc.Init();
		ifc.SetLogLevel(6);
		const file = ifc.OpenModel(bytes);
		const lines = (type: number) => {
			const ids = ifc.GetLineIDsWithType(file, type);
			// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the package has no types for lines
			return Array.from({ length: ids.size() }, (_, k) => ifc.GetLine(file, ids.get(k)) as any);
		};
		const wanted = new Map<string, { role: string; area: number; volume: number; length: number; weight: number }>();
		for (const face of model.faces) {
			const table = partsOf(face);
			const { eachPiece } = await import('../../../src/core/formats/pieceRows.ts');
			eachPiece(project, { ...model, faces: [face] }, (words, _, r) =>
				wanted.set(words.mark, {
					role: words.role,
					area: table.columns.area![r]!,
					volume: table.columns.volume![r]!,
					length: table.columns.length![r]!,
					weight: table.columns.weight![r]!
				})
			);
		}
		const products = [IFCPLATE, IFCMEMBER, IFCSHADINGDEVICE, IFCDISCRETEACCESSORY].flatMap(lines);
		expect(products.map((p) => p.Name.value).sort()).deep.equal([...wanted.keys()].sort());
		// Every id once, over everything that has one.
		const text = new TextDecoder().decode(bytes);
		const ids = [...text.matchAll(/^#\d+=IFC[A-Z0-9]+\('([0-3][0-9A-Za-z_$]{21})',/gm)].map((m) => m[1]);
		expect(new Set(ids).size).equal(ids.length);
		expect(ids.length).greaterThan(products.length * 3);
		void IFCROOT;
		// Quantities by product.
		const named = new Map(products.map((p) => [p.expressID as number, p.Name.value as string]));
		let checked = 0;
		for (const rel of lines(IFCRELDEFINESBYPROPERTIES)) {
			const set = ifc.GetLine(file, rel.RelatingPropertyDefinition.value);
			const mark = named.get(rel.RelatedObjects[0].value);
			if (!set.Quantities || !mark) continue;
			const piece = wanted.get(mark)!;
			for (const { value } of set.Quantities) {
				const q = ifc.GetLine(file, value);
				const [found, right] = {
					Length: [q.LengthValue?.value, piece.length],
					Perimeter: [q.LengthValue?.value, piece.length],
					NetArea: [q.AreaValue?.value, piece.area / 1e6],
					OuterSurfaceArea: [q.AreaValue?.value, piece.area / 1e6],
					NetVolume: [q.VolumeValue?.value, piece.volume / 1e9],
					NetWeight: [q.WeightValue?.value, piece.weight]
				}[q.Name.value as string]!;
				expect(found / right, `${q.Name.value} of ${mark}`).closeTo(1, 1e-9);
				checked++;
			}
		}
		expect(checked).greaterThan(products.length * 2);
		ifc.CloseModel(file);
		// Geometry, by the importer: metres there, mm here; the same pieces where they stand.
		const { pieces } = readIfc(ifc as unknown as IfcPort, bytes);
		const meshes = new Map(allMeshes({ project, model }).map((m) => [m.mark, m]));
		expect(pieces.length).equal(meshes.size);
		for (const { name, mesh } of pieces) {
			const own = meshes.get(name.replace(/ \([a-z]+\)$/, ''))!;
			expect((measured(mesh.positions, mesh.triangles).area * 1e6) / own.area, name).closeTo(1, 1e-3);
		}
	});

	it('have straight bars as swept outlines, few of them, with the volumes of the table (web-ifc)', async () => {
		const { project, model } = await small();
		const bytes = await fileOf(project, model, 'ifc');
		const text = new TextDecoder().decode(bytes);
		const count = (entity: string) => [...text.matchAll(new RegExp(`=${entity}\\(`, 'g'))].length;
		const bars = model.faces[0]!.placements.find((p) => p.kit.id === 'mullion')!.hosts.length;
		expect(count('IFCEXTRUDEDAREASOLID')).least(bars);
		expect(count('IFCARBITRARYCLOSEDPROFILEDEF')).lessThan(bars / 4);
		// Every shape is on the layer of its role, once.
		const layers = [...text.matchAll(/=IFCPRESENTATIONLAYERASSIGNMENT\('([a-z]+)',\$,\(([^)]*)\)/g)];
		expect(layers.map((l) => l[1])).include.members(['pane', 'frame', 'mullion', 'louver']);
		const shapes = layers.flatMap((l) => l[2]!.split(','));
		expect(new Set(shapes).size).equal(shapes.length).equal(count('IFCPRODUCTDEFINITIONSHAPE'));
		const { IfcAPI, IFCMEMBER } = load('web-ifc') as typeof import('web-ifc');
		const ifc = new IfcAPI();
		await ifc.Init();
		ifc.SetLogLevel(6);
		const file = ifc.OpenModel(bytes);
		const right = new Map<string, number>();
		const { eachPiece } = await import('../../../src/core/formats/pieceRows.ts');
		eachPiece(project, model, (words, table, r) => {
			if (words.role === 'mullion') right.set(words.mark, table.columns.volume![r]! / 1e9);
		});
		const found = new Map<string, number>();
		ifc.StreamAllMeshesWithTypes(file, [IFCMEMBER], (mesh) => {
			const { value } = ifc.GetLine(file, mesh.expressID).Name;
			let volume = 0;
			for (let g = 0; g < mesh.geometries.size(); g++) {
				const { geometryExpressID, flatTransformation: m } = mesh.geometries.get(g);
				const geometry = ifc.GetGeometry(file, geometryExpressID);
				const vertices = ifc.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
				const indices = ifc.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
				const at = (k: number) => {
					const [x, y, z] = [0, 1, 2].map((c) => vertices[indices[k]! * 6 + c]!) as [number, number, number];
					return [0, 1, 2].map((c) => m[c]! * x + m[4 + c]! * y + m[8 + c]! * z + m[12 + c]!);
				};
				const o = at(0);
				// Source: the divergence theorem, from a corner of the body, since the package has single precision.
				for (let k = 0; k < indices.length; k += 3) {
					const [a, b, c] = [at(k), at(k + 1), at(k + 2)].map((p) => p.map((v, i) => v - o[i]!)) as [
						number[],
						number[],
						number[]
					];
					volume +=
						(a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
							a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
							a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!)) /
						6;
				}
			}
			found.set(value, Math.abs(volume));
		});
		ifc.CloseModel(file);
		for (const [mark, volume] of right) expect(found.get(mark)! / volume, mark).closeTo(1, 2e-3);
	});

	it('say where their origin is on a map, turned as the map has it (web-ifc)', async () => {
		const { project, model } = await small();
		const turn = Math.PI / 6;
		project.handover.place = { crs: 'EPSG:25832', eastings: 565_123.4, northings: 5_934_567.8, height: 4.2, turn };
		const { IfcAPI, IFCMAPCONVERSION } = load('web-ifc') as typeof import('web-ifc');
		const ifc = new IfcAPI();
		await ifc.Init();
		ifc.SetLogLevel(6);
		const file = ifc.OpenModel(await fileOf(project, model, 'ifc'));
		const ids = ifc.GetLineIDsWithType(file, IFCMAPCONVERSION);
		expect(ids.size()).equal(1);
		const found = ifc.GetLine(file, ids.get(0));
		expect(ifc.GetLine(file, found.TargetCRS.value).Name.value).equal('EPSG:25832');
		const number = (name: string) => found[name].value as number;
		expect([number('Eastings'), number('Northings'), number('OrthogonalHeight')]).deep.equal([
			565_123.4, 5_934_567.8, 4.2
		]);
		// The project's y lies 30 degrees clockwise of the map's north: its x as far south of the east.
		const [c, s, scale] = [number('XAxisAbscissa'), number('XAxisOrdinate'), number('Scale')];
		const onMap = (x: number, y: number) => [scale * (c * x - s * y), scale * (s * x + c * y)];
		const [east, north] = onMap(0, 10_000) as [number, number];
		expect(east).closeTo(5, 1e-9);
		expect(north).closeTo(10 * Math.cos(turn), 1e-9);
		ifc.CloseModel(file);
	});

	it('say of which issue they are: in the head and as the phase of the project', async () => {
		const { project, model } = await small();
		const issue = { mark: 'B', name: 'Für den Tender', author: 'A. Author', date: '2026-11-27' };
		const chunks: Uint8Array[] = [];
		await writeFormat('ifc', { project, model, issue }, {}, (chunk) => void chunks.push(chunk.slice()));
		const text = Buffer.concat(chunks).toString();
		expect(text).match(/FILE_NAME\('[^']*','2026-11-27T00:00:00',\('A. Author'\)/);
		// Attribute 7 of IfcProject (ISO 16739-1).
		expect(/IFCPROJECT\(([^;]*)\);/.exec(text)![1]!.split(',')[6]).equal("'Issue B F\\X2\\00FC\\X0\\r den Tender'");
		expect(Buffer.from(await fileOf(project, model, 'ifc')).toString()).contains("'2000-01-01T00:00:00',('')");
	});

	it('keep the ids of pieces when the division around them changes, and tell projects apart', async () => {
		const { project, model } = await small();
		const idsOf = async (p: Project, m: Model) =>
			new Map(
				[...new TextDecoder().decode(await fileOf(p, m, 'ifc')).matchAll(/=IFCPLATE\('([^']+)',\$,'([^']+)'/g)].map(
					(m) => [m[2]!, m[1]!]
				)
			);
		const before = await idsOf(project, model);
		const later = structuredClone(project);
		later.masses[0]!.faces[0]!.settingOut.up.spacing = { kind: 'count', count: 5 };
		const after = await idsOf(later, await run(later));
		expect(after.size).greaterThan(before.size);
		for (const [mark, id] of before) expect(after.get(mark), mark).equal(id);
		const other = await idsOf({ ...project, uid: 'another' }, model);
		for (const [mark, id] of before) expect(other.get(mark)).not.equal(id);
	});
});
