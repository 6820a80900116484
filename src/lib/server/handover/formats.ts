/** The files of the handover; one line a format. */
export const HANDOVER_FORMATS = {
	csv: { label: 'Panel schedule', extension: 'csv', media: 'text/csv; charset=utf-8' },
	glb: { label: 'Model', extension: 'glb', media: 'model/gltf-binary' },
	json: { label: 'Project', extension: 'json', media: 'application/json' }
} as const;

export type HandoverFormat = keyof typeof HANDOVER_FORMATS;

export const isHandoverFormat = (text: unknown): text is HandoverFormat =>
	typeof text === 'string' && text in HANDOVER_FORMATS;
