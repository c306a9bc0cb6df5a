import type { Change } from '@/contract/meters';
import { readingFromText } from '@/core/reading/from-text';
import { cutsOf } from '@/core/trend/trend';
import { permits } from '@/core/trust/trust';

/** The EC that a step goes by. */
export interface EcNow {
	ecUsCm: number | null;
	at: number;
	/** Nothing is poured on it. */
	doubted: boolean;
	/** Something was poured in or drained since it was read. */
	overtaken: boolean;
}

/** What is known of it once something was entered at its tank. */
export function afterNews(now: EcNow, change: Change): EcNow {
	if (change.what && cutsOf('ec').includes(change.what))
		return change.time && Date.parse(change.time) <= now.at ? now : { ...now, overtaken: true };
	const read = change.readings?.findLast((r) => r.quantity === 'ec');
	if (!read) return now;
	const at = Date.parse(read.time);
	const understood = readingFromText({ ...read, tempC: null, waitS: null }, { ppmScale: null, altitudeM: 0 });
	if (!understood.ok || at < now.at) return now;
	return {
		ecUsCm: understood.value.value,
		at,
		doubted: !permits({ flag: read.flag, cause: '', decision: null }, 'dose'),
		overtaken: false,
	};
}
