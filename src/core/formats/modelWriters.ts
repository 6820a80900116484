import type { z } from 'zod';
import { hasRows, writer, type Writer } from './writer.ts';
import { glbOptions, ifcOptions, meshOptions, noOptions } from './writerOptions.ts';

// Each is loaded when it is needed: the handover place knows all writers by name only.

/** A writer of the model with all its parts. */
const modelWriter = <Schema extends z.ZodType>(
	options: Schema,
	write: Parameters<typeof writer<Schema>>[1],
	rest: Pick<Writer, 'label' | 'help' | 'extension' | 'media' | 'onAsking'>
): Writer =>
	writer(options, write, {
		name: 'model',
		missing: (input) =>
			hasRows(input, 'parts') ? undefined : 'There is no part to export: place a kit on a face first.',
		...rest
	});

/** Models in space. */
export const MODEL_WRITERS = {
	ifc: modelWriter(
		ifcOptions,
		async (input, options, sink) => (await import('./ifc/writeIfc.ts')).writeIfc(input, options, sink),
		{
			label: 'Building model',
			help: 'IFC4: faces as curtain walls and roofs with their pieces, types, quantities, materials, openings and storeys',
			extension: 'ifc',
			media: 'application/x-step'
		}
	),
	glb: modelWriter(
		glbOptions,
		async ({ project, model }, options, sink) =>
			(await import('./glb/writeGlb.ts')).writeGlb(project, model, options, sink),
		{
			label: 'Model',
			help: 'glTF 2.0: one mesh a material, every part named by the mark of what it stands on',
			extension: 'glb',
			media: 'model/gltf-binary'
		}
	),
	obj: modelWriter(
		meshOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./obj/writeObj.ts')).writeObj(project, model, units, sink),
		{
			label: 'Mesh as OBJ',
			help: 'An object a piece, named by its mark, in a group a face; z up',
			extension: 'obj',
			onAsking: true,
			media: 'model/obj'
		}
	),
	stl: modelWriter(
		meshOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./stl/writeStl.ts')).writeStl(project, model, units, sink),
		{ label: 'Mesh as STL', help: 'All triangles, binary; z up', extension: 'stl', onAsking: true, media: 'model/stl' }
	),
	ply: modelWriter(
		meshOptions,
		async ({ project, model }, { units }, sink) =>
			(await import('./ply/writePly.ts')).writePly(project, model, units, sink),
		{
			label: 'Mesh as PLY',
			help: 'Points with the colours of their materials, binary; z up',
			extension: 'ply',
			onAsking: true,
			media: 'application/octet-stream'
		}
	),
	'3mf': modelWriter(
		noOptions,
		async ({ project, model }, _, sink) => (await import('./mesh/write3mf.ts')).write3mf(project, model, sink),
		{
			label: 'Mesh as 3MF',
			help: 'An object a piece, named by its mark, with its material; mm, z up',
			extension: '3mf',
			onAsking: true,
			media: 'model/3mf'
		}
	),
	step: writer(noOptions, async (input, _, sink) => (await import('./step/writeStep.ts')).writeStep(input, sink), {
		label: 'Exact faces',
		help: 'STEP: the faces of the masses as surfaces, whole and without openings; mm',
		name: 'faces',
		extension: 'step',
		media: 'model/step',
		missing: ({ model }) => (model.bodies.length ? undefined : 'There is no face: add a mass first.')
	}),
	space: writer(
		noOptions,
		async ({ model }, _, sink) => (await import('./dxf/writeSpaceDxf.ts')).writeSpaceDxf(model, sink),
		{
			label: 'Grid in space as DXF',
			help: 'Cells as faces, their edges as lines and their nodes as points, on layers by face; mm, z up',
			name: 'grid',
			extension: 'dxf',
			media: 'image/vnd.dxf',
			missing: ({ model }) => (model.faces.length ? undefined : 'There is no cell: no face is divided.')
		}
	)
};
