import { cos, sin } from '../../elementary/index.ts';
import type { PartRole } from '../../kit/fields.ts';
import type { Mesh } from '../../kit/mesh.ts';
import type { PlacedPart } from '../../placement/place.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Material, Project } from '../../project/schema.ts';
import { hostsOn, partKeys } from '../../schedule/hostKeys.ts';
import type { PartTable } from '../../schedule/parts.ts';
import { pieceMeshes, type MeshOf } from '../../schedule/pieceMesh.ts';
import { ByteWriter } from '../byteWriter.ts';
import { eachPiece, type PieceWords } from '../pieceRows.ts';
import type { Sink } from '../sink.ts';
import { titleOf, type WriterInput } from '../writerInput.ts';
import { GlobalIds } from './globalId.ts';
import { MappedBodies } from './mappedBodies.ts';
import { FACE_ELEMENTS, PRODUCTS, type FaceElement, type Product } from './products.ts';
import { stepList, stepReal, stepText, StepWriter } from '../step/stepText.ts';
import { SweptBodies } from './sweptBodies.ts';

/** Faces that lean back further than this from upright are roofs, where nothing else is said. */
const ROOF_TILT = Math.PI / 4;
/** Kinds of parts that may be prisms. */
const PRISMATIC: ReadonlySet<PlacedPart['kind']> = new Set(['bar', 'plate', 'blades']);
const M_PER_MM = 0.001;
/** Digits after the point of coordinates, mm. */
const DIGITS = 3;

/** What belongs to one product and wants a globally unique id of its own. */
const PART = { product: 0, own: 1, ownTo: 2, quantities: 3, quantitiesTo: 4, common: 5, commonTo: 6, aggregates: 7 };

/**
 * The model as IFC4 (ISO 16739-1, exchange structure of ISO 10303-21): project, site, building, storeys from levels; a curtain
 * wall, roof or covering a face, made up of plates, members, shading devices and accessories; types, materials, colours, the
 * standard's sets of properties and quantities, and a set of our own. Lengths are mm, areas m2, volumes m3, masses kg. The same
 * piece has the same id from run to run. O(triangles).
 */
export function writeIfc(input: WriterInput, sink: Sink): void {
	const out = new ByteWriter(sink);
	out.text(head(input));
	const file = new IfcFile(input, new StepWriter(out));
	file.write();
	out.text('ENDSEC;\nEND-ISO-10303-21;\n');
	out.finish();
}

/** The time is that of the issue, or stands still: the same model, the same bytes. */
const head = ({ project: { name }, issue }: WriterInput) =>
	`ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('ViewDefinition [ReferenceView_V1.2]'),'2;1');\nFILE_NAME(${stepText(`${name}.ifc`)},'${issue?.date ?? '2000-01-01'}T00:00:00',(${stepText(issue?.author ?? '')}),(''),'Zygaster','Zygaster','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n`;

class IfcFile {
	private readonly project: Project;
	private readonly model: Model;
	private readonly phase: string;
	private readonly step: StepWriter;
	private readonly mapped: MappedBodies;
	private readonly swept: SweptBodies;
	private readonly ids: (name: string) => GlobalIds;
	private readonly placement: string;
	private readonly body: string;
	private readonly context: string;
	private readonly styles = new Map<string, string>();
	/** Properties that stand once, whoever has them. */
	private readonly properties = new Map<string, Map<string, string>>();
	private readonly materials = new Map<string, string[]>();
	/** What is shown, by its role. */
	private readonly layers = new Map<string, string[]>();
	private readonly types = new Map<
		string,
		{ readonly words: PieceWords; readonly product: Product; readonly members: string[] }
	>();

	constructor({ project, model, issue }: WriterInput, step: StepWriter) {
		this.project = project;
		this.model = model;
		this.phase = issue ? stepText(`Issue ${titleOf(issue)}`) : '$';
		this.step = step;
		this.ids = (name) => new GlobalIds(`${project.uid ?? ''} ${name}`);
		const origin = step.add('IFCCARTESIANPOINT', '(0.,0.,0.)');
		const axes = step.add('IFCAXIS2PLACEMENT3D', origin, '$', '$');
		this.placement = step.add('IFCLOCALPLACEMENT', '$', axes);
		this.context = step.add('IFCGEOMETRICREPRESENTATIONCONTEXT', '$', "'Model'", '3', '1.E-05', axes, '$');
		this.placeOnMap();
		const sub = ["'Body'", "'Model'", '*', '*', '*', '*', this.context, '$', '.MODEL_VIEW.', '$'];
		this.body = step.add('IFCGEOMETRICREPRESENTATIONSUBCONTEXT', ...sub);
		this.swept = new SweptBodies(step);
		this.mapped = new MappedBodies(step, axes, this.body, (mesh, material) => this.faceSet(mesh, material));
	}

	write(): void {
		const { project, step } = this;
		const building = this.spatial();
		const storeys = this.storeys(building);
		const faces = this.model.faces.map((face) => this.face(face));
		this.contain(storeys, faces);
		this.pieces(faces);
		for (const [mark, { words, product, members }] of this.types) this.type(mark, words, product, members);
		for (const [role, shapes] of this.layers)
			step.add('IFCPRESENTATIONLAYERASSIGNMENT', stepText(role), '$', stepList(shapes), '$');
		for (const [name, members] of this.materials) {
			const ids = this.ids(`material ${name}`);
			const category = project.materials.find((m) => m.name === name)?.finish;
			const material = step.add('IFCMATERIAL', stepText(name), category ? stepText(category) : '$', '$');
			step.add('IFCRELASSOCIATESMATERIAL', ids.of(), '$', '$', '$', stepList(members), material);
		}
	}

	/** Where the origin is on a map, whose unit is the metre: lengths here are mm. */
	private placeOnMap(): void {
		const { step } = this;
		const { place } = this.project.handover;
		if (!place) return;
		const metre = step.add('IFCSIUNIT', '*', '.LENGTHUNIT.', '$', '.METRE.');
		const map = step.add('IFCPROJECTEDCRS', stepText(place.crs), '$', '$', '$', '$', '$', metre);
		const numbers = [place.eastings, place.northings, place.height, cos(place.turn), -sin(place.turn), M_PER_MM];
		step.add('IFCMAPCONVERSION', this.context, map, ...numbers.map(stepReal));
	}

	/** Project, site and building; answers the building. */
	private spatial(): string {
		const { project, step } = this;
		const units = [
			['LENGTHUNIT', '.MILLI.', 'METRE'],
			['AREAUNIT', '$', 'SQUARE_METRE'],
			['VOLUMEUNIT', '$', 'CUBIC_METRE'],
			['PLANEANGLEUNIT', '$', 'RADIAN'],
			['MASSUNIT', '.KILO.', 'GRAM']
		].map(([kind, prefix, name]) => step.add('IFCSIUNIT', '*', `.${kind}.`, prefix!, `.${name}.`));
		const assigned = step.add('IFCUNITASSIGNMENT', stepList(units));
		const name = stepText(project.name);
		const whole = this.ids('project');
		const root = step.add(
			'IFCPROJECT',
			whole.of(),
			'$',
			name,
			'$',
			'$',
			'$',
			this.phase,
			`(${this.context})`,
			assigned
		);
		const place = ['$', '$', this.placement, '$', '$', '.ELEMENT.'];
		const site = this.ids('site');
		const building = this.ids('building');
		const siteName = step.add('IFCSITE', site.of(), '$', "'Site'", ...place, '$', '$', '$', '$', '$');
		const buildingName = step.add('IFCBUILDING', building.of(), '$', name, ...place, '$', '$', '$');
		step.add('IFCRELAGGREGATES', whole.of(PART.aggregates), '$', '$', '$', root, `(${siteName})`);
		step.add('IFCRELAGGREGATES', site.of(PART.aggregates), '$', '$', '$', siteName, `(${buildingName})`);
		return buildingName;
	}

	/** Storeys from levels, the lowest first; one at the ground where there are none. */
	private storeys(building: string): { readonly name: string; readonly height: number; readonly id: string }[] {
		const { project, step } = this;
		const levels = [...project.levels].sort((a, b) => a.height - b.height);
		const all = levels.length ? levels : [{ id: 'ground', name: 'Ground', height: 0 }];
		const storeys = all.map(({ id, name, height }) => ({
			id,
			height,
			name: step.add(
				'IFCBUILDINGSTOREY',
				this.ids(`level ${id}`).of(),
				'$',
				stepText(name),
				'$',
				'$',
				this.placement,
				'$',
				'$',
				'.ELEMENT.',
				stepReal(height)
			)
		}));
		const ids = this.ids('building').of(PART.aggregates);
		step.add('IFCRELAGGREGATES', ids, '$', '$', '$', building, stepList(storeys.map((s) => s.name)));
		return storeys;
	}

	/** The element that the pieces of a face make up. */
	private face(face: FaceModel) {
		const ids = this.ids(`face ${face.key}`);
		const { entity, predefined } = FACE_ELEMENTS[this.elementOf(face)];
		const names = [stepText(face.name), '$', '$'];
		const name = this.step.add(entity, ids.of(), '$', ...names, this.placement, '$', stepText(face.mark), predefined);
		if (entity === 'IFCCURTAINWALL' || entity === 'IFCROOF')
			this.set(ids, PART.common, entity === 'IFCROOF' ? 'Pset_RoofCommon' : 'Pset_CurtainWallCommon', name, [
				this.property('Reference', face.mark, 'IDENTIFIER'),
				this.property('IsExternal', '.T.', 'BOOLEAN')
			]);
		return { face, ids, name, members: [] as string[] };
	}

	private elementOf({ key, readings }: FaceModel): FaceElement {
		const own = this.project.masses
			.flatMap((mass) => mass.faces.map((f) => [`${mass.id}/${f.id}`, f.element] as const))
			.find(([k]) => k === key)?.[1];
		if (own && own !== 'auto') return own;
		const { tilt, area } = readings.columns;
		let [sum, whole] = [0, 0];
		for (let c = 0; c < area.length; c++) {
			sum += tilt[c]! * area[c]!;
			whole += area[c]!;
		}
		return whole > 0 && sum / whole < ROOF_TILT ? 'roof' : 'curtainWall';
	}

	/** Each face is in one storey: the one that its lowest point is in. */
	private contain(storeys: ReturnType<IfcFile['storeys']>, faces: readonly ReturnType<IfcFile['face']>[]): void {
		const inside = storeys.map((): string[] => []);
		for (const { face, name } of faces) {
			let lowest = Infinity;
			for (let k = 2; k < face.nodes.position.length; k += 3) lowest = Math.min(lowest, face.nodes.position[k]!);
			const at = storeys.findLastIndex((s) => s.height <= lowest);
			inside[Math.max(0, at)]!.push(name);
		}
		storeys.forEach(({ id, name }, s) => {
			if (!inside[s]!.length) return;
			const ids = this.ids(`contained ${id}`);
			this.step.add('IFCRELCONTAINEDINSPATIALSTRUCTURE', ids.of(), '$', '$', '$', stepList(inside[s]!), name);
		});
	}

	private pieces(faces: readonly ReturnType<IfcFile['face']>[]): void {
		let own: { readonly face: number; readonly keys: string[]; readonly meshes: (MeshOf | undefined)[] } | undefined;
		eachPiece(this.project, this.model, (words, table, r, f) => {
			const { face } = faces[f]!;
			if (own?.face !== f) own = { face: f, keys: partKeys(face, hostsOn(face)), meshes: [] };
			const p = table.part[r]!;
			const meshOf = (own.meshes[p] ??= pieceMeshes(table.parts[p]!.part));
			faces[f]!.members.push(this.piece(own.keys[r]!, words, table, r, meshOf));
		});
		for (const { ids, name, members } of faces)
			if (members.length)
				this.step.add('IFCRELAGGREGATES', ids.of(PART.aggregates), '$', '$', '$', name, stepList(members));
	}

	private piece(key: string, words: PieceWords, table: PartTable, r: number, meshOf: MeshOf): string {
		const { step } = this;
		const product = PRODUCTS[words.role as PartRole];
		const ids = this.ids(key);
		const shape = this.shape(words, table, r, meshOf);
		const objectType = product.predefined === 'USERDEFINED' ? words.role : words.part;
		const name = step.add(
			product.entity,
			ids.of(),
			'$',
			stepText(words.mark),
			'$',
			stepText(objectType),
			this.placement,
			shape,
			stepText(words.mark),
			`.${product.predefined}.`
		);
		const members = this.materials.get(words.material) ?? [];
		this.materials.set(words.material, members);
		members.push(name);
		if (words.type) {
			const type = this.types.get(words.type) ?? { words, product, members: [] };
			this.types.set(words.type, type);
			type.members.push(name);
		}
		const properties = [this.ownProperty('Mark', words.mark)];
		for (const [label, value] of [
			['Host', words.hostMark],
			['Host kind', words.hostKind],
			['Type', words.type],
			['Rule', words.rule],
			['Kit', words.kit],
			['Part', words.part],
			['Role', words.role]
		] as const)
			if (value !== '') properties.push(this.property(label, value));
		if (words.row !== undefined) properties.push(this.property('Row', String(words.row), 'INTEGER'));
		if (words.column !== undefined) properties.push(this.property('Column', String(words.column), 'INTEGER'));
		this.set(ids, PART.own, 'Zygaster_Piece', name, properties);
		this.quantities(ids, product, name, table, r);
		return name;
	}

	/** Sets of properties belong to one thing. */
	private set(ids: GlobalIds, part: number, name: string, of: string, properties: readonly string[]): void {
		const { step } = this;
		const set = step.add('IFCPROPERTYSET', ids.of(part), '$', stepText(name), '$', stepList(properties));
		step.add('IFCRELDEFINESBYPROPERTIES', ids.of(part + 1), '$', '$', '$', `(${of})`, set);
	}

	/** A property with a value that many have, which is written once. */
	private property(
		name: string,
		value: string,
		type: 'LABEL' | 'IDENTIFIER' | 'INTEGER' | 'BOOLEAN' = 'LABEL'
	): string {
		const known = this.properties.get(name) ?? new Map<string, string>();
		this.properties.set(name, known);
		const there = known.get(value);
		if (there) return there;
		const made = this.ownProperty(name, value, type);
		known.set(value, made);
		return made;
	}

	/** A property whose value no other thing has. */
	private ownProperty(name: string, value: string, type: 'LABEL' | 'IDENTIFIER' | 'INTEGER' | 'BOOLEAN' = 'LABEL') {
		const text = type === 'LABEL' || type === 'IDENTIFIER' ? stepText(value) : value;
		return this.step.add('IFCPROPERTYSINGLEVALUE', stepText(name), '$', `IFC${type}(${text})`, '$');
	}

	private quantities(ids: GlobalIds, { quantities }: Product, name: string, { columns }: PartTable, r: number): void {
		const { step } = this;
		const [length, area] = [columns.length![r]!, columns.area![r]! / 1e6];
		const plate = quantities === 'Qto_PlateBaseQuantities';
		const values: string[] = [];
		const add = (kind: string, label: string, value: number) =>
			value > 0 && values.push(step.add(`IFCQUANTITY${kind}`, `'${label}'`, '$', '$', stepReal(value), '$'));
		add('LENGTH', plate ? 'Perimeter' : 'Length', length);
		add('AREA', plate ? 'NetArea' : 'OuterSurfaceArea', area);
		add('VOLUME', 'NetVolume', columns.volume![r]! / 1e9);
		add('WEIGHT', 'NetWeight', columns.weight![r]!);
		if (values.length === 0) return;
		const label = `'${quantities ?? 'Zygaster_Quantities'}'`;
		const set = step.add('IFCELEMENTQUANTITY', ids.of(PART.quantities), '$', label, '$', '$', stepList(values));
		step.add('IFCRELDEFINESBYPROPERTIES', ids.of(PART.quantitiesTo), '$', '$', '$', `(${name})`, set);
	}

	private type(mark: string, words: PieceWords, product: Product, members: readonly string[]): void {
		const { step } = this;
		const ids = this.ids(`type ${mark}`);
		const { properties, entity, predefined } = product;
		const sets = properties
			? [
					step.add(
						'IFCPROPERTYSET',
						ids.of(PART.common),
						'$',
						`'${properties}'`,
						'$',
						stepList([this.property('Reference', mark, 'IDENTIFIER'), this.property('IsExternal', '.T.', 'BOOLEAN')])
					)
				]
			: [];
		const type = step.add(
			`${entity}TYPE`,
			ids.of(),
			'$',
			stepText(mark),
			stepText(`${words.kit}, ${words.part}`),
			'$',
			sets.length ? stepList(sets) : '$',
			'$',
			stepText(mark),
			stepText(words.role),
			`.${predefined}.`
		);
		step.add('IFCRELDEFINESBYTYPE', ids.of(PART.aggregates), '$', '$', '$', stepList(members), type);
	}

	/** How a piece looks: swept, put up again, or by its triangles; nothing for a bar of a joined body, which the first of them has. */
	private shape({ material, role }: PieceWords, table: PartTable, r: number, meshOf: MeshOf): string {
		const { step } = this;
		const { kind, geometry } = table.parts[table.part[r]!]!.part;
		const [placed, element] = [table.placed[r]!, table.element[r]!];
		const represented = (type: string, item: string) =>
			step.add('IFCSHAPEREPRESENTATION', this.body, "'Body'", `'${type}'`, `(${item})`);
		const shapeOf = (): string | undefined => {
			const mesh = geometry.kind === 'instances' ? undefined : meshOf(placed, element);
			const swept = PRISMATIC.has(kind) && (mesh ? this.swept.mesh(mesh) : this.swept.instance(geometry, element));
			if (swept) {
				step.add('IFCSTYLEDITEM', swept, `(${this.style(material)})`, '$');
				return represented('SweptSolid', swept);
			}
			const mapped = this.mapped.represent(geometry, element, material);
			if (mapped) return mapped;
			const faceted = mesh ?? meshOf(placed, element);
			return faceted?.triangles.length ? represented('Tessellation', this.faceSet(faceted, material)) : undefined;
		};
		const shape = shapeOf();
		if (shape) {
			const layer = this.layers.get(role) ?? [];
			this.layers.set(role, layer);
			layer.push(shape);
		}
		return shape ? step.add('IFCPRODUCTDEFINITIONSHAPE', '$', '$', `(${shape})`) : '$';
	}

	/** A mesh with the colour of its material. */
	private faceSet({ positions, triangles }: Mesh, material: string): string {
		const { step } = this;
		const { out } = step;
		const points = step.begin('IFCCARTESIANPOINTLIST3D');
		out.text('(');
		for (let k = 0; k < positions.length; k += 3) {
			out.text(k ? ',(' : '(');
			for (let c = 0; c < 3; c++) {
				if (c > 0) out.ascii(COMMA);
				out.fixed(positions[k + c]!, DIGITS);
			}
			out.ascii(CLOSE);
		}
		out.text('));\n');
		const set = step.begin('IFCTRIANGULATEDFACESET');
		out.text(`${points},$,$,(`);
		for (let t = 0; t < triangles.length; t += 3) {
			out.text(t ? ',(' : '(');
			for (let c = 0; c < 3; c++) {
				if (c > 0) out.ascii(COMMA);
				out.whole(triangles[t + c]! + 1);
			}
			out.ascii(CLOSE);
		}
		out.text('),$);\n');
		step.add('IFCSTYLEDITEM', set, `(${this.style(material)})`, '$');
		return set;
	}

	private style(name: string): string {
		const there = this.styles.get(name);
		if (there) return there;
		const { step } = this;
		const material: Pick<Material, 'colour' | 'opacity'> = this.project.materials.find((m) => m.name === name) ?? {
			colour: '#808080',
			opacity: 1
		};
		const rgb = [1, 3, 5].map((k) => stepReal(parseInt(material.colour.slice(k, k + 2), 16) / 255));
		const colour = step.add('IFCCOLOURRGB', '$', ...rgb);
		const look = [colour, stepReal(1 - material.opacity), '$', '$', '$', '$', '$', '$', '.NOTDEFINED.'];
		const rendering = step.add('IFCSURFACESTYLERENDERING', ...look);
		const style = step.add('IFCSURFACESTYLE', stepText(name), '.BOTH.', `(${rendering})`);
		this.styles.set(name, style);
		return style;
	}
}

const COMMA = 44;
const CLOSE = 41;
