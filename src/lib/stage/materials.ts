import { DoubleSide, LineBasicMaterial, MeshLambertMaterial, PointsMaterial, type Material, type Side } from 'three';

/** How a material is shown. */
export interface MaterialLook {
	readonly id: string;
	readonly colour: string;
	readonly opacity: number;
}

/**
 * Materials by what they look like, each once and never given up: a renderer lets go of a shader with the last material
 * that uses it, and translating it anew takes longer than all else in a picture.
 */
const kept = new Map<string, Material>();

function once<M extends Material>(key: string, make: () => M): M {
	const there = (kept.get(key) as M | undefined) ?? make();
	kept.set(key, there);
	return there;
}

/** Lines on the same plane stay in front. */
const BEHIND_LINES = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };

const UNKNOWN: Omit<MaterialLook, 'id'> = { colour: '#999999', opacity: 1 };

/** Of what a kit has made. */
export const partMaterial = ({ colour, opacity }: Omit<MaterialLook, 'id'> = UNKNOWN): MeshLambertMaterial =>
	once(
		`part ${colour} ${opacity}`,
		() =>
			new MeshLambertMaterial({
				color: colour,
				flatShading: true,
				side: DoubleSide,
				transparent: opacity < 1,
				opacity,
				...BEHIND_LINES
			})
	);

/** Laid over parts that are chosen. */
export const tintMaterial = (colour: string): MeshLambertMaterial =>
	once(
		`tint ${colour}`,
		() =>
			new MeshLambertMaterial({
				color: colour,
				flatShading: true,
				side: DoubleSide,
				transparent: true,
				opacity: 0.55,
				polygonOffset: true,
				polygonOffsetFactor: -1,
				polygonOffsetUnits: -1
			})
	);

/** Of a bare surface; lit by its facets where it has no normals. */
export const bodyMaterial = (colour: string, side: Side, flat = false): MeshLambertMaterial =>
	once(
		`body ${colour} ${side} ${flat}`,
		() => new MeshLambertMaterial({ color: colour, side, flatShading: flat, ...BEHIND_LINES })
	);

export const lineMaterial = (colour: string, opacity = 1): LineBasicMaterial =>
	once(`line ${colour} ${opacity}`, () => new LineBasicMaterial({ color: colour, transparent: opacity < 1, opacity }));

/**
 * How far lines on a bare surface are drawn nearer to the eye than they are, as a share of how far they are away: the
 * surface is drawn as facets, and lines that follow the true face would dip under them here and there.
 */
const NEARER = 0.004;

/** Of lines that follow a surface. */
export const followingLineMaterial = (colour: string, opacity: number): LineBasicMaterial =>
	once(`following ${colour} ${opacity}`, () => {
		const material = new LineBasicMaterial({ color: colour, transparent: true, opacity });
		material.onBeforeCompile = (shader) => {
			shader.vertexShader = shader.vertexShader.replace(
				'#include <project_vertex>',
				`#include <project_vertex>\n\tgl_Position = projectionMatrix * vec4(mvPosition.xyz * ${(1 - NEARER).toFixed(4)}, 1.0);`
			);
		};
		return material;
	});

/** Dots of so many pixels; those on top are hidden by nothing. */
export const dotMaterial = (colour: string, size: number, onTop = false): PointsMaterial =>
	once(
		`dot ${colour} ${size} ${onTop}`,
		() => new PointsMaterial({ color: colour, size, sizeAttenuation: false, depthTest: !onTop })
	);
