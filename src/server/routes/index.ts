import type { Route } from '../dispatch';
import { about } from './about';
import { archive } from './archive';
import { attachments } from './attachments';
import { audit } from './audit';
import { drains } from './drains';
import { episodes } from './episodes';
import { events } from './events';
import { explanations } from './explanations';
import { files } from './files';
import { leaf } from './leaf';
import { meters } from './meters';
import { batches, doses } from './mix';
import { people } from './people';
import { plans } from './plans';
import { probeCalculators } from './probe-calculators';
import { calibrations, probes } from './probes';
import { products } from './products';
import { readings } from './readings';
import { rounds } from './rounds';
import { sensors } from './sensors';
import { series } from './series';
import { setup } from './setup';
import { sheets } from './sheets';
import { sites } from './sites';
import { uptake } from './uptake';
import { watch } from './watch';
import { water } from './water';
import { waterCalculators } from './water-calculators';
import { week } from './week';

/** What does every operation of the API. */
export const routes: Route[] = [
	...about,
	...probeCalculators,
	...waterCalculators,
	...readings,
	...episodes,
	...sensors,
	...watch,
	...series,
	...explanations,
	...events,
	...week,
	...setup,
	...rounds,
	...water,
	...drains,
	...uptake,
	...leaf,
	...plans,
	...products,
	...doses,
	...batches,
	...meters,
	...sheets,
	...archive,
	...audit,
	...sites,
	...people,
	...probes,
	...calibrations,
	...files,
	...attachments,
];
