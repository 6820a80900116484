import { cos, sin } from '../../elementary/index.ts';
import type { Project } from '../../project/schema.ts';
import { stepReal, stepText, type Instance } from '../step/stepText.ts';
import { PART, type GlobalIds } from './globalId.ts';
import type { IfcWriter } from './ifcWriter.ts';

const M_PER_MM = 0.001;

/** Something that is in a storey, with how low it reaches, mm. */
export interface Contained {
	readonly element: Instance;
	readonly lowest: number;
}

interface Storey {
	readonly id: string;
	readonly storey: Instance;
	readonly height: number;
}

/** Project, site, building and storeys. */
export class Spatial {
	private readonly step: IfcWriter;
	private readonly project: Project;
	private readonly ids: (name: string) => GlobalIds;
	private readonly placement: Instance;
	private readonly storeys: readonly Storey[];

	/** Writes them, with the `phase` that the project is in and the context of its geometry. */
	constructor(
		step: IfcWriter,
		project: Project,
		ids: (name: string) => GlobalIds,
		phase: string,
		context: Instance,
		placement: Instance
	) {
		this.step = step;
		this.project = project;
		this.ids = ids;
		this.placement = placement;
		this.placeOnMap(context);
		this.storeys = this.writeStoreys(this.writeBuilding(phase, context));
	}

	/** Puts each thing into the storey that its lowest point is in. */
	contain(things: readonly Contained[]): void {
		const { storeys, step } = this;
		const inside = storeys.map((): Instance[] => []);
		for (const { element, lowest } of things)
			inside[
				Math.max(
					0,
					storeys.findLastIndex((s) => s.height <= lowest)
				)
			]!.push(element);
		storeys.forEach(({ id, storey }, s) => {
			if (!inside[s]!.length) return;
			const ids = this.ids(`contained ${id}`);
			step.root('IFCRELCONTAINEDINSPATIALSTRUCTURE', ids, PART.itself, '$', '$', inside[s]!, storey);
		});
	}

	/** Where the origin is on a map, whose unit is the metre: lengths here are mm. */
	private placeOnMap(context: Instance): void {
		const { step } = this;
		const { place } = this.project.handover;
		if (!place) return;
		const metre = step.add('IFCSIUNIT', '*', '.LENGTHUNIT.', '$', '.METRE.');
		const map = step.add('IFCPROJECTEDCRS', stepText(place.crs), '$', '$', '$', '$', '$', metre);
		const numbers = [place.eastings, place.northings, place.height, cos(place.turn), -sin(place.turn), M_PER_MM];
		step.add('IFCMAPCONVERSION', context, map, ...numbers.map(stepReal));
	}

	private writeBuilding(phase: string, context: Instance): Instance {
		const { project, step } = this;
		const units = [
			['LENGTHUNIT', '.MILLI.', 'METRE'],
			['AREAUNIT', '$', 'SQUARE_METRE'],
			['VOLUMEUNIT', '$', 'CUBIC_METRE'],
			['PLANEANGLEUNIT', '$', 'RADIAN'],
			['MASSUNIT', '.KILO.', 'GRAM']
		].map(([kind, prefix, name]) => step.add('IFCSIUNIT', '*', `.${kind}.`, prefix!, `.${name}.`));
		const assigned = step.add('IFCUNITASSIGNMENT', units);
		const name = stepText(project.name);
		const [whole, site, building] = ['project', 'site', 'building'].map(this.ids) as [GlobalIds, GlobalIds, GlobalIds];
		const root = step.root('IFCPROJECT', whole, PART.itself, name, '$', '$', '$', phase, [context], assigned);
		const place = ['$', '$', this.placement, '$', '$', '.ELEMENT.'] as const;
		const siteMade = step.root('IFCSITE', site, PART.itself, "'Site'", ...place, '$', '$', '$', '$', '$');
		const buildingMade = step.root('IFCBUILDING', building, PART.itself, name, ...place, '$', '$', '$');
		step.root('IFCRELAGGREGATES', whole, PART.aggregates, '$', '$', root, [siteMade]);
		step.root('IFCRELAGGREGATES', site, PART.aggregates, '$', '$', siteMade, [buildingMade]);
		return buildingMade;
	}

	/** Storeys from levels, the lowest first; one at the ground where there are none. */
	private writeStoreys(building: Instance): Storey[] {
		const { project, step } = this;
		const levels = [...project.levels].sort((a, b) => a.height - b.height);
		const all = levels.length ? levels : [{ id: 'ground', name: 'Ground', height: 0 }];
		const place = ['$', '$', this.placement, '$', '$', '.ELEMENT.'] as const;
		const storeys = all.map(({ id, name, height }) => {
			const ids = this.ids(`level ${id}`);
			return {
				id,
				height,
				storey: step.root('IFCBUILDINGSTOREY', ids, PART.itself, stepText(name), ...place, stepReal(height))
			};
		});
		const made = storeys.map((s) => s.storey);
		step.root('IFCRELAGGREGATES', this.ids('building'), PART.aggregates, '$', '$', building, made);
		return storeys;
	}
}
