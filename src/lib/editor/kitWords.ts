import type { Kit, Step } from '../../core/kit/schema.ts';

/** One step of a kit as a reader would say it. */
export function stepInWords(step: Step, kit: Kit): string {
	const value = (v: number | string) =>
		typeof v === 'number'
			? `${v} mm`
			: (kit.parameters.find((p) => p.name === v)?.label.toLowerCase() ?? v);
	switch (step.kind) {
		case 'outline':
			return 'closed line through the corners';
		case 'inset':
			return `inset ${step.of} by ${value(step.distance)}`;
		case 'lift':
			return `lift ${step.of} by ${value(step.distance)} to the ${step.towards}`;
		case 'sheet':
			return `sheet ${step.outline}${step.hole ? `, hole ${step.hole}` : ''}, ${step.material}, ${value(step.thickness)}`;
		case 'ribbon':
			return `ribbon ${step.from} – ${step.to}, ${step.material}, ${value(step.thickness)}`;
	}
}
