import type { SensorNode } from '@/contract/sensors';
import { decimal } from '@/core/quantity';

/** A node as its form has it. */
export interface NodeValues {
	name: string;
	station: string;
	keep_days: string;
	retired: boolean;
}

export const nodeValues = (n: SensorNode): NodeValues => ({
	name: n.name,
	station: n.station,
	keep_days: n.keep_days === null ? '' : String(n.keep_days),
	retired: n.retired,
});

/** What was typed as it is sent; what is no number is left for the contract to refuse. */
export const readNode = (n: SensorNode, v: NodeValues) => ({
	code: n.code,
	name: v.name,
	station: v.station,
	keep_days: v.keep_days.trim() === '' ? null : (decimal(v.keep_days.trim()) ?? Number.NaN),
	retired: v.retired,
});
