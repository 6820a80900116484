import type { Mesh } from '../../kit/mesh.ts';
import type { Material } from '../../project/schema.ts';
import { stepReal, stepText, type Instance, type StepWriter } from '../step/stepText.ts';

/** Digits after the point of coordinates, mm. */
const DIGITS = 3;
const [COMMA, CLOSE] = [44, 41];

/** Bodies by their triangles, and colours of materials. */
export class Looks {
	private readonly step: StepWriter;
	private readonly materials: readonly Material[];
	private readonly styles = new Map<string, Instance>();

	constructor(step: StepWriter, materials: readonly Material[]) {
		this.step = step;
		this.materials = materials;
	}

	/** Gives a shape the colour of a material, by its name on screen. */
	paint(shape: Instance, material: string): void {
		this.step.add('IFCSTYLEDITEM', shape, [this.style(material)], '$');
	}

	/** A mesh; whether it is `closed` is said only where it is known. */
	faceSet({ positions, triangles }: Mesh, closed?: boolean): Instance {
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
		step.name(points);
		out.text(`,$,${closed === undefined ? '$' : closed ? '.T.' : '.F.'},(`);
		for (let t = 0; t < triangles.length; t += 3) {
			out.text(t ? ',(' : '(');
			for (let c = 0; c < 3; c++) {
				if (c > 0) out.ascii(COMMA);
				out.whole(triangles[t + c]! + 1);
			}
			out.ascii(CLOSE);
		}
		out.text('),$);\n');
		return set;
	}

	private style(name: string): Instance {
		const there = this.styles.get(name);
		if (there) return there;
		const { step } = this;
		const material = this.materials.find((m) => m.name === name) ?? { colour: '#808080', opacity: 1 };
		const rgb = [1, 3, 5].map((k) => stepReal(parseInt(material.colour.slice(k, k + 2), 16) / 255));
		const colour = step.add('IFCCOLOURRGB', '$', ...rgb);
		const look = [colour, stepReal(1 - material.opacity), '$', '$', '$', '$', '$', '$', '.NOTDEFINED.'];
		const rendering = step.add('IFCSURFACESTYLERENDERING', ...look);
		const style = step.add('IFCSURFACESTYLE', stepText(name), '.BOTH.', [rendering]);
		this.styles.set(name, style);
		return style;
	}
}
