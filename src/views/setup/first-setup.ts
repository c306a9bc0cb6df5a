import { type CROPS, rangesFor, type Stage, SYSTEM_PRESETS } from '@/core/crop/presets';
import type { InstrumentKind } from '@/core/reading/protocol';
import { type DisplayUnits, EC_UNITS } from '@/core/reading/site-view';
import { api } from '../data/client';
import { litresTyped } from '../mix/typed';
import { codeFrom } from './code';

/** What the label on a pen says, in words its owner can read off it. */
export const PENS = {
	combined: { words: 'pH, and EC, µS or mS', kind: 'combined' },
	ppm: { words: 'pH, and ppm or TDS', kind: 'combined' },
	ph: { words: 'pH only', kind: 'ph' },
	ec: { words: 'EC, µS, mS, ppm or TDS only', kind: 'ec' },
	drop_kit: { words: 'none: drops or strips with a colour card', kind: 'drop_kit' },
	none: { words: 'I have none yet', kind: null },
} as const satisfies Record<string, { words: string; kind: InstrumentKind | null }>;
export type Pen = keyof typeof PENS;

/** The answers to the first questions, as they are typed. */
export interface FirstAnswers {
	site: string;
	zone: string;
	kind: (typeof SYSTEM_PRESETS)[number]['kind'];
	name: string;
	volume: string;
	crop: (typeof CROPS)[number]['crop'];
	stage: Stage;
	pen: Pen;
	penName: string;
	/** Decimals of pH on its display. */
	decimals: '1' | '2';
	scale: '' | '500' | '640' | '700';
}

const SOURCE = 'Water';
const STATION_NAME = { source: SOURCE, reservoir: '', mix: 'feed', drain: 'drain' } as const;
/** EC of a drain may lie above that of the feed by so much, in µS/cm. */
const DRAIN_ABOVE = 500;

/** Who reads ppm sees ppm everywhere; the rest EC. */
export const unitsOf = (a: Pick<FirstAnswers, 'pen' | 'scale'>): DisplayUnits['ec'] =>
	(a.pen === 'ppm' || a.pen === 'ec') && a.scale !== ''
		? (EC_UNITS.find((u) => u === `ppm${a.scale}`) ?? 'mS/cm')
		: 'mS/cm';

/** Makes site, system, stations and meter of the answers. @returns the station of the first reading @throws ApiProblem, or an Error with words for the person */
export async function setUp(a: FirstAnswers): Promise<string> {
	const preset = SYSTEM_PRESETS.find((p) => p.kind === a.kind)!;
	const litres = a.volume.trim() === '' ? preset.volumeL : litresTyped(a.volume);
	if (litres !== null && !(litres !== undefined && litres > 0 && litres < 1e9))
		throw new Error('How much it holds is a number of litres, as 40, or with its unit, as 10 gal.');
	await api('PUT /site', { body: { name: a.site.trim() || 'My site', timezone: a.zone, units: { ec: unitsOf(a) } } });
	const name = a.name.trim() || 'Tank';
	const system = codeFrom(name);
	await api('POST /systems', {
		body: { code: system, name, kind: a.kind, volume_l: litres, medium: preset.medium, crop: a.crop, stage: a.stage },
	});
	const ranges = rangesFor(a.crop, a.stage);
	let before: string[] = [];
	for (const part of preset.stations) {
		const stationName = part === 'source' ? SOURCE : part === 'reservoir' ? name : `${name} ${STATION_NAME[part]}`;
		const code = codeFrom(stationName);
		await api('POST /stations', {
			body: {
				code,
				name: stationName,
				kind: part,
				system: part === 'source' ? null : system,
				fed_by: before,
				volume_l: part === 'reservoir' ? litres : null,
				ranges:
					part === 'source'
						? {}
						: part === 'drain'
							? { ph: ranges.ph, ec: [ranges.ec[0], ranges.ec[1] + DRAIN_ABOVE] }
							: ranges,
			},
		});
		before = [code];
	}
	const { kind } = PENS[a.pen];
	if (kind !== null) {
		const pen = a.penName.trim() || (kind === 'drop_kit' ? 'Drop kit' : 'Pen');
		await api('POST /instruments', {
			body: {
				code: codeFrom(pen),
				name: pen,
				kind,
				quantities: {
					...(kind === 'ec' || kind === 'drop_kit'
						? {}
						: { ph: { resolution: a.decimals === '1' ? 0.1 : 0.01, accuracy: a.decimals === '1' ? 0.2 : 0.1 } }),
					...(kind === 'ph' || kind === 'drop_kit' ? {} : { ec: { resolution: 10, accuracyPct: 2 } }),
				},
				ppm_scale: a.scale === '' ? null : (Number(a.scale) as 500 | 640 | 700),
			},
		});
	}
	return preset.stations.includes('reservoir') ? codeFrom(name) : codeFrom(`${name} feed`);
}
