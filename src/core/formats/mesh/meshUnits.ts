/** Units that meshes may be written in, with digits that keep a thousandth of a mm. */
export const MESH_UNITS = { mm: { per: 1, decimals: 3 }, m: { per: 1000, decimals: 6 } } as const;
export type MeshUnit = keyof typeof MESH_UNITS;
