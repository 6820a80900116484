import { Box3, Vector3, type PerspectiveCamera } from 'three';

/** A fitted model leaves this share of the picture free around it. */
const MARGIN = 1.12;

/**
 * Where a camera that looks against `direction` has to aim, and how far it has to stand off, so that all
 * points just fill the picture; and half the diagonal of the box around them.
 */
export function frameAll(points: readonly Vector3[], direction: Vector3, camera: PerspectiveCamera) {
	const box = new Box3().setFromPoints([...points]);
	const centre = box.getCenter(new Vector3());
	const forward = direction.clone().negate();
	const right = new Vector3().crossVectors(forward, camera.up).normalize();
	const up = new Vector3().crossVectors(right, forward);
	const tanY = Math.tan((camera.fov * Math.PI) / 360) / MARGIN;
	const tanX = tanY * camera.aspect;
	// The eye is moved sideways until the outermost points are as far from either side.
	const seen = points.map((p) => {
		const q = p.clone().sub(centre);
		return { depth: q.dot(direction), x: q.dot(right), y: q.dot(up) };
	});
	const most = (f: (p: (typeof seen)[number]) => number) => seen.reduce((m, p) => Math.max(m, f(p)), -Infinity);
	const [left, rightmost] = [most((p) => p.depth * tanX - p.x), most((p) => p.depth * tanX + p.x)];
	const [below, above] = [most((p) => p.depth * tanY - p.y), most((p) => p.depth * tanY + p.y)];
	const nearest = most((p) => p.depth);
	const radius = box.getSize(new Vector3()).length() / 2;
	return {
		target: centre.addScaledVector(right, (rightmost - left) / 2).addScaledVector(up, (above - below) / 2),
		distance: Math.max((left + rightmost) / 2 / tanX, (below + above) / 2 / tanY, nearest + radius / 10),
		radius
	};
}
