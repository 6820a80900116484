import type { PartRole } from '../../kit/fields.ts';

/** What a part of a role is in IFC4 (ISO 16739-1). */
export interface Product {
	readonly entity: 'IFCPLATE' | 'IFCMEMBER' | 'IFCSHADINGDEVICE' | 'IFCDISCRETEACCESSORY';
	readonly predefined: string;
	/** Its sets of properties and quantities that the standard has. */
	readonly properties?: string;
	readonly quantities?: 'Qto_PlateBaseQuantities' | 'Qto_MemberBaseQuantities';
}

const plate = (predefined: string): Product => ({
	entity: 'IFCPLATE',
	predefined,
	properties: 'Pset_PlateCommon',
	quantities: 'Qto_PlateBaseQuantities'
});
const member = (predefined: string): Product => ({
	entity: 'IFCMEMBER',
	predefined,
	properties: 'Pset_MemberCommon',
	quantities: 'Qto_MemberBaseQuantities'
});
const shading = (predefined: string): Product => ({
	entity: 'IFCSHADINGDEVICE',
	predefined,
	properties: 'Pset_ShadingDeviceCommon'
});

export const PRODUCTS: Readonly<Record<PartRole, Product>> = {
	pane: plate('CURTAIN_PANEL'),
	panel: plate('CURTAIN_PANEL'),
	screen: plate('CURTAIN_PANEL'),
	reveal: plate('SHEET'),
	backing: plate('SHEET'),
	frame: member('MULLION'),
	mullion: member('MULLION'),
	rod: member('MEMBER'),
	louver: shading('JALOUSIE'),
	fin: shading('USERDEFINED'),
	connector: { entity: 'IFCDISCRETEACCESSORY', predefined: 'BRACKET' }
};

/** What faces can be, and how they are called where somebody chooses. */
export const FACE_ELEMENTS = {
	curtainWall: { entity: 'IFCCURTAINWALL', predefined: '.NOTDEFINED.', label: 'Curtain wall' },
	roof: { entity: 'IFCROOF', predefined: '.FREEFORM.', label: 'Roof' },
	covering: { entity: 'IFCCOVERING', predefined: '.CLADDING.', label: 'Covering' },
	proxy: { entity: 'IFCBUILDINGELEMENTPROXY', predefined: '.ELEMENT.', label: 'Building element' }
} as const;
export type FaceElement = keyof typeof FACE_ELEMENTS;
