import { borderOf } from '../geometry/faceBorder.ts';
import type { Surface } from '../geometry/surface.ts';
import type { KitLibrary } from '../kit/builderWorld.ts';
import type { Kit } from '../kit/schema.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { hasSection, widths, type Section } from '../placement/rooms.ts';
import { isBeside, linesOf, middleOf, slackOf, type Ends } from './borderLines.ts';
import type { FaceModel } from './faceResult.ts';

/** A bar or node piece of an earlier face along the border of a later one, which keeps clear of it as of its own. */
export interface BesideSection {
	readonly kit: string;
	readonly ends: Ends;
	/** mm. */
	readonly width: number;
}

/** What kits of earlier faces that say how thick they are at nodes have along the border of a face. */
export function sectionsBeside(surface: Surface, earlier: readonly FaceModel[], library: KitLibrary): BesideSection[] {
	if (!earlier.length) return [];
	const border = borderOf(surface);
	return earlier.flatMap((model) =>
		model.assigned.jobs.flatMap((job) => {
			const kit = library.get(job.kit)!;
			if (!standsOnBorder(kit)) return [];
			const width = widths({ job, kit });
			return linesOf(model, kit.host.kind, job.hosts)
				.filter(({ ends }) => border.holds(middleOf(ends), slackOf(ends)))
				.map(({ ends, row }) => ({ kit: kit.id, ends, width: width[row]! }));
		})
	);
}

/** The same on the hosts of the face that it stands along: its edges and nodes at the border. */
export function asOwnSections(beside: readonly BesideSection[], face: HostFace, library: KitLibrary): Section[] {
	const { cells, nodes } = face;
	const all = { edge: cells.edgeCount, node: nodes.position.length / 3 };
	return (['edge', 'node'] as const).flatMap((kind) => {
		const there = beside.filter(({ kit }) => library.get(kit)!.host.kind === kind);
		if (!there.length) return [];
		const own = linesOf(
			face,
			kind,
			Uint32Array.from({ length: all[kind] }, (_, h) => h)
		);
		return there.flatMap(({ kit: id, ends, width }): Section[] => {
			const kit = library.get(id)!;
			const hosts = own.filter((line) => isBeside(middleOf(line.ends), ends)).map(({ host }) => host);
			const section = 'section' in kit.host ? kit.host.section! : '';
			const columns = { [section]: new Float64Array(hosts.length).fill(width) };
			return hosts.length ? [{ job: { hosts: Uint32Array.from(hosts), given: {}, columns }, kit }] : [];
		});
	});
}

const standsOnBorder = (kit: Kit): boolean =>
	hasSection(kit) && (kit.host.kind === 'node' || (kit.host.kind === 'edge' && kit.host.on === 'face'));
