import { createRequire } from 'node:module';

const load = createRequire(import.meta.url);

/** Opens a file with the package web-ifc. */
export async function opened(bytes: Uint8Array) {
	const package_ = load('web-ifc') as typeof import('web-ifc');
	const ifc = new package_.IfcAPI();
	await ifc.Init();
	ifc.SetLogLevel(6);
	const file = ifc.OpenModel(bytes);
	// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the package has no types for lines
	const line = (id: number) => ifc.GetLine(file, id) as any;
	const lines = (type: number) => {
		const ids = ifc.GetLineIDsWithType(file, type);
		return Array.from({ length: ids.size() }, (_, k) => line(ids.get(k)));
	};
	/** Area in m2 and volume in m3 of a product's triangles, by hand. */
	const measure = (id: number) => {
		let [area, volume] = [0, 0];
		let origin: number[] | undefined;
		const { geometries } = ifc.GetFlatMesh(file, id);
		for (let g = 0; g < geometries.size(); g++) {
			const { geometryExpressID, flatTransformation: m } = geometries.get(g);
			const body = ifc.GetGeometry(file, geometryExpressID);
			const vertices = ifc.GetVertexArray(body.GetVertexData(), body.GetVertexDataSize());
			const index = ifc.GetIndexArray(body.GetIndexData(), body.GetIndexDataSize());
			const at = (k: number) => {
				const p = vertices.subarray(index[k]! * 6, index[k]! * 6 + 3);
				return [0, 1, 2].map((r) => m[r]! * p[0]! + m[4 + r]! * p[1]! + m[8 + r]! * p[2]! + m[12 + r]!);
			};
			origin ??= at(0);
			for (let k = 0; k < index.length; k += 3) {
				// From a point of the body, since the package has single precision.
				const [a, b, c] = [at(k), at(k + 1), at(k + 2)].map((p) => p.map((x, i) => x - origin![i]!)) as [
					number[],
					number[],
					number[]
				];
				const [u, v] = [b, c].map((p) => p.map((x, i) => x - a[i]!)) as [number[], number[]];
				const n = [0, 1, 2].map((i) => u[(i + 1) % 3]! * v[(i + 2) % 3]! - u[(i + 2) % 3]! * v[(i + 1) % 3]!);
				area += Math.hypot(...n) / 2;
				volume += (a[0]! * n[0]! + a[1]! * n[1]! + a[2]! * n[2]!) / 6;
			}
		}
		return { area, volume };
	};
	return { types: package_, line, lines, measure };
}
