import type { PartRole } from '../../kit/fields.ts';
import type { PlacedPart } from '../../placement/place.ts';
import type { Mesh } from '../../kit/mesh.ts';
import type { Classified } from '../../project/handover.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { MAIN_CELL_READINGS, type MainCellReading } from '../../readings/cellReadings.ts';
import { HOST_TABLES } from '../../schedule/faceTable.ts';
import { hostsOn, partKeys } from '../../schedule/hostKeys.ts';
import { allPartsOf, type PartTable } from '../../schedule/parts.ts';
import { pieceMeshes, type MeshOf } from '../../schedule/pieceMesh.ts';
import type { Quantity } from '../../units/quantity.ts';
import { ByteWriter } from '../byteWriter.ts';
import { eachPiece, type PieceWords } from '../pieceRows.ts';
import type { Sink } from '../sink.ts';
import { titleOf, type WriterInput } from '../writerInput.ts';
import { globalIdsIn, PART, type GlobalIds } from './globalId.ts';
import { IfcWriter } from './ifcWriter.ts';
import { Looks } from './looks.ts';
import { MappedBodies } from './mappedBodies.ts';
import { FACE_ELEMENTS, PRODUCTS, type FaceElement, type Product } from './products.ts';
import { PropertySets, type Measure } from './propertySets.ts';
import { Spatial, type Contained } from './spatial.ts';
import { stepText, type Instance } from '../step/stepText.ts';
import { SweptBodies } from './sweptBodies.ts';
import { writeClassification } from './writeClassification.ts';
import { writeGrid } from './writeGrid.ts';
import { writeOpenings } from './writeOpenings.ts';

export interface IfcOptions {
	/** Voids of openings, with the windows and doors in them. */
	readonly openings: boolean;
	/** Grid lines and setting-out nodes. */
	readonly grid: boolean;
	/** What is told of the cells that pieces stand on. */
	readonly readings: readonly MainCellReading[];
}

/** What readings are in the file; of others than these there are none among the main ones. */
const MEASURE_OF: Readonly<Partial<Record<Quantity, Measure>>> = {
	length: 'LENGTHMEASURE',
	area: 'AREAMEASURE',
	angle: 'PLANEANGLEMEASURE',
	ratio: 'REAL',
	count: 'INTEGER'
};

/** Faces that lean back further than this from upright are roofs, where nothing else is said. */
const ROOF_TILT = Math.PI / 4;
/** Kinds of parts that may be prisms. */
const PRISMATIC: ReadonlySet<PlacedPart['kind']> = new Set(['bar', 'plate', 'blades']);

/**
 * The model as IFC4 (ISO 16739-1, exchange structure of ISO 10303-21): project, site, building, storeys from levels; a curtain
 * wall, roof or covering a face, made up of plates, members, shading devices and accessories; types, materials, colours, the
 * standard's sets of properties and quantities, and a set of our own. Lengths are mm, areas m2, volumes m3, masses kg. The same
 * piece has the same id from run to run. O(triangles).
 */
export function writeIfc(input: WriterInput, options: IfcOptions, sink: Sink): void {
	const out = new ByteWriter(sink);
	out.text(head(input));
	const file = new IfcFile(input, options, new IfcWriter(out));
	file.write();
	out.text('ENDSEC;\nEND-ISO-10303-21;\n');
	out.finish();
}

/** The time is that of the issue, or stands still: the same model, the same bytes. */
const head = ({ project: { name }, issue }: WriterInput) =>
	`ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('ViewDefinition [ReferenceView_V1.2]'),'2;1');\nFILE_NAME(${stepText(`${name}.ifc`)},'${issue?.date ?? '2000-01-01'}T00:00:00',(${stepText(issue?.author ?? '')}),(''),'Zygaster','Zygaster','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n`;

/** The element that the pieces of a face make up. */
interface FaceElementOf {
	readonly face: FaceModel;
	readonly ids: GlobalIds;
	readonly element: Instance;
	readonly members: Instance[];
	/** By reading and cell: its property. */
	readonly readings: Map<MainCellReading, Instance[]>;
}

class IfcFile {
	private readonly project: Project;
	private readonly model: Model;
	private readonly options: IfcOptions;
	private readonly step: IfcWriter;
	private readonly looks: Looks;
	private readonly sets: PropertySets;
	private readonly mapped: MappedBodies;
	private readonly swept: SweptBodies;
	private readonly spatial: Spatial;
	private readonly ids: (name: string) => GlobalIds;
	private readonly placement: Instance;
	private readonly context: Instance;
	private readonly body: Instance;
	private readonly materials = new Map<string, Instance[]>();
	/** What is shown, and who it is, by role. */
	private readonly layers = new Map<string, Instance[]>();
	private readonly byRole = new Map<string, Instance[]>();
	private readonly types = new Map<
		string,
		{ readonly words: PieceWords; readonly product: Product; readonly members: Instance[] }
	>();

	constructor({ project, model, issue }: WriterInput, options: IfcOptions, step: IfcWriter) {
		this.project = project;
		this.model = model;
		this.options = options;
		this.step = step;
		this.looks = new Looks(step, project.materials);
		this.sets = new PropertySets(step);
		this.ids = globalIdsIn(project.uid ?? '');
		if (issue) step.ownedBy(issue);
		const origin = step.add('IFCCARTESIANPOINT', '(0.,0.,0.)');
		const axes = step.add('IFCAXIS2PLACEMENT3D', origin, '$', '$');
		this.placement = step.add('IFCLOCALPLACEMENT', '$', axes);
		this.context = step.add('IFCGEOMETRICREPRESENTATIONCONTEXT', '$', "'Model'", '3', '1.E-05', axes, '$');
		this.body = this.subContext('Body');
		this.swept = new SweptBodies(step);
		this.mapped = new MappedBodies(step, axes, this.body, (mesh, material) => this.painted(mesh, material));
		const phase = issue ? stepText(`Issue ${titleOf(issue)}`) : '$';
		this.spatial = new Spatial(step, project, this.ids, phase, this.context, this.placement);
	}

	write(): void {
		const { project, step, model, options } = this;
		const faces = model.faces.map((face) => this.face(face));
		const inStoreys: Contained[] = faces.map(({ element, face }) => ({ element, lowest: lowestOf(face) }));
		if (options.openings) inStoreys.push(...faces.flatMap(({ face }) => this.openings(face)));
		if (options.grid) {
			const context = this.subContext('Annotation');
			for (const { face } of faces)
				for (const element of writeGrid(step, this.ids, this.placement, context, face))
					inStoreys.push({ element, lowest: lowestOf(face) });
		}
		this.spatial.contain(inStoreys);
		this.pieces(faces);
		for (const [mark, { words, product, members }] of this.types) this.type(mark, words, product, members);
		for (const [role, shapes] of this.layers)
			step.add('IFCPRESENTATIONLAYERASSIGNMENT', stepText(role), '$', shapes, '$');
		for (const [name, members] of this.materials) {
			const ids = this.ids(`material ${name}`);
			const category = project.materials.find((m) => m.name === name)?.finish;
			const material = step.add('IFCMATERIAL', stepText(name), category ? stepText(category) : '$', '$');
			step.root('IFCRELASSOCIATESMATERIAL', ids, PART.itself, '$', '$', members, material);
		}
		const { classification } = project.handover;
		if (classification) writeClassification(step, this.ids, classification, (of) => this.byRole.get(of) ?? []);
	}

	private subContext(name: string): Instance {
		const values = [`'${name}'`, "'Model'", '*', '*', '*', '*', this.context, '$', '.MODEL_VIEW.', '$'] as const;
		return this.step.add('IFCGEOMETRICREPRESENTATIONSUBCONTEXT', ...values);
	}

	/** Keeps what is of a role, or a kind of element, so that it can be classified. */
	private remember(of: Classified, element: Instance): void {
		const list = this.byRole.get(of) ?? [];
		this.byRole.set(of, list);
		list.push(element);
	}

	/**
	 * What is of the openings of a face. They are voids in an element without a body: those of an element that is made up of others
	 * are cut out of these by programs that read the file, and ours are cut already, each as its kit says.
	 */
	private openings(face: FaceModel): Contained[] {
		if (!face.openings.length) return [];
		const { step, sets, looks, ids, placement } = this;
		const own = this.faceOf(face.key)?.openings ?? [];
		const name = stepText(`${face.name}, surface`);
		const mark = stepText(face.mark);
		const words = [name, '$', "'Surface'", placement, '$', mark] as const;
		const surface = step.root('IFCVIRTUALELEMENT', ids(`surface ${face.key}`), PART.itself, ...words);
		const filled = writeOpenings(
			{
				step,
				sets,
				looks,
				ids,
				placement,
				remember: (of, made) => this.remember(of, made),
				shapeOf: (item) => this.shapeOf(this.represented('Tessellation', item))
			},
			face,
			surface,
			own
		);
		return [{ element: surface, lowest: lowestOf(face) }, ...filled];
	}

	private faceOf(key: string) {
		for (const mass of this.project.masses)
			for (const face of mass.faces) if (`${mass.id}/${face.id}` === key) return face;
		return undefined;
	}

	private face(face: FaceModel): FaceElementOf {
		const ids = this.ids(`face ${face.key}`);
		const kind = this.elementOf(face);
		const { entity, predefined } = FACE_ELEMENTS[kind];
		const words = [stepText(face.name), '$', '$', this.placement, '$', stepText(face.mark), predefined] as const;
		const element = this.step.root(entity, ids, PART.itself, ...words);
		this.remember(kind, element);
		const common = { IFCCURTAINWALL: 'Pset_CurtainWallCommon', IFCROOF: 'Pset_RoofCommon' } as const;
		if (entity in common)
			this.sets.properties(
				ids,
				PART.common,
				common[entity as keyof typeof common],
				element,
				this.sets.common(face.mark)
			);
		return { face, ids, element, members: [], readings: new Map() };
	}

	private elementOf({ key, readings }: FaceModel): FaceElement {
		const own = this.faceOf(key)?.element;
		if (own && own !== 'auto') return own;
		const { tilt, area } = readings.columns;
		let [sum, whole] = [0, 0];
		for (let c = 0; c < area.length; c++) {
			sum += tilt[c]! * area[c]!;
			whole += area[c]!;
		}
		return whole > 0 && sum / whole < ROOF_TILT ? 'roof' : 'curtainWall';
	}

	private pieces(faces: readonly FaceElementOf[]): void {
		let own: { readonly face: number; readonly keys: string[]; readonly meshes: (MeshOf | undefined)[] } | undefined;
		eachPiece(
			this.project,
			this.model,
			(words, table, r, f) => {
				const element = faces[f]!;
				const { face } = element;
				if (own?.face !== f) own = { face: f, keys: partKeys(face, hostsOn(face), table), meshes: [] };
				const p = table.part[r]!;
				const meshOf = (own.meshes[p] ??= pieceMeshes(table.parts[p]!.part));
				element.members.push(this.piece(own.keys[r]!, element, words, table, r, meshOf));
			},
			allPartsOf
		);
		for (const { ids, element, members } of faces)
			if (members.length) this.step.root('IFCRELAGGREGATES', ids, PART.aggregates, '$', '$', element, members);
	}

	private piece(
		key: string,
		element: FaceElementOf,
		words: PieceWords,
		table: PartTable,
		r: number,
		meshOf: MeshOf
	): Instance {
		const { step, sets } = this;
		const role = words.role as PartRole;
		const product = PRODUCTS[role];
		const ids = this.ids(key);
		const shape = this.shape(words, table, r, meshOf);
		const mark = stepText(words.mark);
		const objectType = stepText(product.predefined === 'USERDEFINED' ? words.role : words.part);
		const values = [mark, '$', objectType, this.placement, shape, mark, `.${product.predefined}.`] as const;
		const made = step.root(product.entity, ids, PART.itself, ...values);
		this.remember(role, made);
		const members = this.materials.get(words.material) ?? [];
		this.materials.set(words.material, members);
		members.push(made);
		if (words.type) {
			const type = this.types.get(words.type) ?? { words, product, members: [] };
			this.types.set(words.type, type);
			type.members.push(made);
		}
		const properties = [sets.own('Mark', words.mark)];
		const tell = (label: string, value: string) => {
			if (value !== '') properties.push(sets.shared(label, value));
		};
		tell('Host', words.hostMark);
		tell('Host kind', words.hostKind);
		tell('Type', words.type);
		tell('Rule', words.rule);
		tell('Kit', words.kit);
		tell('Part', words.part);
		tell('Role', words.role);
		if (words.row !== undefined) properties.push(sets.shared('Row', String(words.row), 'INTEGER'));
		if (words.column !== undefined) properties.push(sets.shared('Column', String(words.column), 'INTEGER'));
		properties.push(...this.readings(element, table, r));
		sets.properties(ids, PART.own, 'Zygaster_Piece', made, properties);
		if (table.parts[table.part[r]!]!.part.scheduled) this.quantities(ids, product, made, table, r);
		return made;
	}

	/** What was measured on the cell that a piece stands on; nothing of one that stands elsewhere. */
	private readings({ face, readings }: FaceElementOf, table: PartTable, r: number): Instance[] {
		if (HOST_TABLES[table.hostTable[r]!] !== 'panels') return [];
		const cell = face.schedule.tables.panels.host[table.host[r]!]!;
		const told: Instance[] = [];
		for (const reading of this.options.readings) {
			const known = readings.get(reading) ?? [];
			readings.set(reading, known);
			const value = face.readings.columns[reading][cell]!;
			if (!Number.isFinite(value)) continue;
			const { label, quantity } = MAIN_CELL_READINGS[reading];
			// All pieces on a cell share it.
			told.push((known[cell] ??= this.sets.measured(`Cell ${label.toLowerCase()}`, value, MEASURE_OF[quantity]!)));
		}
		return told;
	}

	private quantities(ids: GlobalIds, { quantities }: Product, of: Instance, { columns }: PartTable, r: number): void {
		const plate = quantities === 'Qto_PlateBaseQuantities';
		this.sets.quantities(ids, PART.quantities, quantities ?? 'Zygaster_Quantities', of, [
			['LENGTH', plate ? 'Perimeter' : 'Length', columns.length![r]!],
			['AREA', plate ? 'NetArea' : 'OuterSurfaceArea', columns.area![r]!],
			['VOLUME', 'NetVolume', columns.volume![r]!],
			['WEIGHT', 'NetWeight', columns.weight![r]!]
		]);
	}

	private type(mark: string, words: PieceWords, product: Product, members: readonly Instance[]): void {
		const { step } = this;
		const ids = this.ids(`type ${mark}`);
		const { properties, entity, predefined } = product;
		const common = properties
			? step.root('IFCPROPERTYSET', ids, PART.common, `'${properties}'`, '$', this.sets.common(mark))
			: undefined;
		const values = [
			stepText(mark),
			stepText(`${words.kit}, ${words.part}`),
			'$',
			common ? [common] : '$',
			'$'
		] as const;
		const type = step.root(
			`${entity}TYPE`,
			ids,
			PART.itself,
			...values,
			stepText(mark),
			stepText(words.role),
			`.${predefined}.`
		);
		step.root('IFCRELDEFINESBYTYPE', ids, PART.aggregates, '$', '$', members, type);
	}

	/** How a piece looks: swept, put up again, or by its triangles; nothing for a bar of a joined body, which the first of them has. */
	private shape({ material, role }: PieceWords, table: PartTable, r: number, meshOf: MeshOf): Instance | '$' {
		const { kind, geometry } = table.parts[table.part[r]!]!.part;
		const [placed, element] = [table.placed[r]!, table.element[r]!];
		const bodyOf = (): Instance | undefined => {
			const mesh = geometry.kind === 'instances' ? undefined : meshOf(placed, element);
			const swept = PRISMATIC.has(kind) && (mesh ? this.swept.mesh(mesh) : this.swept.instance(geometry, element));
			if (swept) {
				this.looks.paint(swept, material);
				return this.represented('SweptSolid', swept);
			}
			const mapped = this.mapped.represent(geometry, element, material);
			if (mapped) return mapped;
			const faceted = mesh ?? meshOf(placed, element);
			return faceted?.triangles.length ? this.represented('Tessellation', this.painted(faceted, material)) : undefined;
		};
		const shape = bodyOf();
		if (!shape) return '$';
		const layer = this.layers.get(role) ?? [];
		this.layers.set(role, layer);
		layer.push(shape);
		return this.shapeOf(shape);
	}

	private painted(mesh: Mesh, material: string): Instance {
		const set = this.looks.faceSet(mesh);
		this.looks.paint(set, material);
		return set;
	}

	private represented(type: string, item: Instance): Instance {
		return this.step.add('IFCSHAPEREPRESENTATION', this.body, "'Body'", `'${type}'`, [item]);
	}

	private shapeOf(representation: Instance): Instance {
		return this.step.add('IFCPRODUCTDEFINITIONSHAPE', '$', '$', [representation]);
	}
}

/** Height of the lowest node, mm. */
function lowestOf({ nodes }: FaceModel): number {
	let lowest = Infinity;
	for (let k = 2; k < nodes.position.length; k += 3) lowest = Math.min(lowest, nodes.position[k]!);
	return lowest;
}
