import { signedVolume, type TriangleMesh } from '../mesh/triangleMesh.ts';

/** Triangles of one body, anticlockwise seen from outside. */
export type Mesh = TriangleMesh;

/** Volume of a closed mesh, mm3; below 0 when it is inside out. */
export const meshVolume = (mesh: Mesh): number => signedVolume(mesh) / 6;
