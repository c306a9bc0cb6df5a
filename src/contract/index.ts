import { about } from './about';
import { archive } from './archive';
import { attachments } from './attachments';
import { audit } from './audit';
import { batches } from './batches';
import { calibrations } from './calibrations';
import { doses } from './doses';
import { drains } from './drains';
import { episodes } from './episodes';
import { events } from './events';
import { explanations } from './explanations';
import { files } from './files';
import { leaf } from './leaf';
import { meters } from './meters';
import type { Resource } from './operation';
import { people } from './people';
import { plans } from './plans';
import { probeCalculators } from './probe-calculators';
import { probes } from './probes';
import { products } from './products';
import { readings } from './readings';
import { rounds } from './rounds';
import { sensors } from './sensors';
import { series } from './series';
import { sheets } from './sheets';
import { setup } from './site';
import { sites } from './sites';
import { uptake } from './uptake';
import { watch } from './watch';
import { water } from './water';
import { waterCalculators } from './water-calculators';
import { week } from './week';

/** Every resource of the API, in the order in which it is described. */
export const RESOURCES = [
	about,
	probeCalculators,
	waterCalculators,
	readings,
	episodes,
	sensors,
	watch,
	series,
	explanations,
	events,
	week,
	setup,
	rounds,
	water,
	drains,
	uptake,
	leaf,
	plans,
	products,
	doses,
	batches,
	meters,
	probes,
	calibrations,
	files,
	attachments,
	sheets,
	archive,
	audit,
	sites,
	people,
] as const satisfies readonly Resource[];

type Together<R extends readonly Resource[]> = R extends readonly [
	infer A extends Resource,
	...infer Rest extends readonly Resource[],
]
	? A['operations'] & Together<Rest>
	: Record<never, never>;
/** Every operation by its method and address. */
export type Contract = Together<typeof RESOURCES>;
