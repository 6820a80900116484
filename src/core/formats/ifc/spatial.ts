import { cos, sin } from '../../elementary/index.ts';
import type { Project } from '../../project/schema.ts';
import { stepList, stepReal, stepText } from '../step/stepText.ts';
import { PART, type GlobalIds } from './globalId.ts';
import type { IfcWriter } from './ifcWriter.ts';

const M_PER_MM = 0.001;

/** Something that is in a storey, with how low it reaches, mm. */
export interface Contained {
	readonly name: string;
	readonly lowest: number;
}

interface Storey {
	readonly id: string;
	readonly name: string;
	readonly height: number;
}

/** Project, site, building and storeys. */
export class Spatial {
	private readonly step: IfcWriter;
	private readonly project: Project;
	private readonly ids: (name: string) => GlobalIds;
	private readonly placement: string;
	private readonly storeys: readonly Storey[];

	/** Writes them, with the `phase` that the project is in and the context of its geometry. */
	constructor(
		step: IfcWriter,
		project: Project,
		ids: (name: string) => GlobalIds,
		phase: string,
		context: string,
		placement: string
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
		const inside = storeys.map((): string[] => []);
		for (const { name, lowest } of things)
			inside[
				Math.max(
					0,
					storeys.findLastIndex((s) => s.height <= lowest)
				)
			]!.push(name);
		storeys.forEach(({ id, name }, s) => {
			if (!inside[s]!.length) return;
			const own = this.ids(`contained ${id}`).of();
			step.root('IFCRELCONTAINEDINSPATIALSTRUCTURE', own, '$', '$', stepList(inside[s]!), name);
		});
	}

	/** Where the origin is on a map, whose unit is the metre: lengths here are mm. */
	private placeOnMap(context: string): void {
		const { step } = this;
		const { place } = this.project.handover;
		if (!place) return;
		const metre = step.add('IFCSIUNIT', '*', '.LENGTHUNIT.', '$', '.METRE.');
		const map = step.add('IFCPROJECTEDCRS', stepText(place.crs), '$', '$', '$', '$', '$', metre);
		const numbers = [place.eastings, place.northings, place.height, cos(place.turn), -sin(place.turn), M_PER_MM];
		step.add('IFCMAPCONVERSION', context, map, ...numbers.map(stepReal));
	}

	private writeBuilding(phase: string, context: string): string {
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
		const [whole, site, building] = ['project', 'site', 'building'].map(this.ids) as [GlobalIds, GlobalIds, GlobalIds];
		const root = step.root('IFCPROJECT', whole.of(), name, '$', '$', '$', phase, `(${context})`, assigned);
		const place = ['$', '$', this.placement, '$', '$', '.ELEMENT.'];
		const siteName = step.root('IFCSITE', site.of(), "'Site'", ...place, '$', '$', '$', '$', '$');
		const buildingName = step.root('IFCBUILDING', building.of(), name, ...place, '$', '$', '$');
		step.root('IFCRELAGGREGATES', whole.of(PART.aggregates), '$', '$', root, `(${siteName})`);
		step.root('IFCRELAGGREGATES', site.of(PART.aggregates), '$', '$', siteName, `(${buildingName})`);
		return buildingName;
	}

	/** Storeys from levels, the lowest first; one at the ground where there are none. */
	private writeStoreys(building: string): Storey[] {
		const { project, step } = this;
		const levels = [...project.levels].sort((a, b) => a.height - b.height);
		const all = levels.length ? levels : [{ id: 'ground', name: 'Ground', height: 0 }];
		const place = ['$', '$', this.placement, '$', '$', '.ELEMENT.'];
		const storeys = all.map(({ id, name, height }) => {
			const own = this.ids(`level ${id}`).of();
			return {
				id,
				height,
				name: step.root('IFCBUILDINGSTOREY', own, stepText(name), ...place, stepReal(height))
			};
		});
		const ids = this.ids('building').of(PART.aggregates);
		step.root('IFCRELAGGREGATES', ids, '$', '$', building, stepList(storeys.map((s) => s.name)));
		return storeys;
	}
}
