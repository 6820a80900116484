import { bytesOfArray, contentOf, keepContent } from '../../src/core/content.ts';
import { layPieces, preparePiece } from '../../src/core/mesh/importMesh.ts';
import { newMass } from '../../src/core/project/newMass.ts';
import { checkDocument } from '../../src/core/project/read.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { emptyProject } from '../../src/core/project/starter.ts';
import { gridMesh } from './mesh/meshes.ts';

/** A project with a face from a file, a reference and a mesh for modules. */
export function projectOfMeshes(height = 3000): Project {
	const mesh = gridMesh(8, 8, (i, j) => [i * 1000, j * 1000, height + 200 * Math.cos(i / 3)]);
	const { faces } = layPieces([preparePiece({ name: 'Hall', mesh }, 1)], { kind: 'crease', angle: 0.5 });
	const triangle = {
		positions: keepContent(bytesOfArray(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, height))),
		triangles: keepContent(bytesOfArray(Uint32Array.of(0, 1, 2)))
	};
	return checkDocument({
		...emptyProject('Hall'),
		masses: [newMass({ kind: 'imported', file: 'hall.obj', faces }, [], { id: 'hall', name: 'Hall', marks: [] })],
		modules: [{ id: 'chair', name: 'Chair', ...triangle }],
		references: [{ id: 'ground', name: 'Ground', hidden: false, ...triangle }]
	});
}

/** The document as version 5 had it, with its meshes within. */
export function asVersion5(project: Project): unknown {
	const text = (name: string) => Buffer.from(contentOf(name)).toString('base64');
	const inline = <T extends { positions: string; triangles: string }>(m: T) => ({
		...m,
		positions: text(m.positions),
		triangles: text(m.triangles)
	});
	return {
		...project,
		version: 5,
		modules: project.modules.map(inline),
		references: project.references.map(inline),
		masses: project.masses.map((mass) => ({
			...mass,
			shape:
				mass.shape.kind === 'imported'
					? { ...mass.shape, faces: mass.shape.faces.map((f) => ({ ...f, points: text(f.points) })) }
					: mass.shape
		}))
	};
}
