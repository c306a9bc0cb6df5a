import type { z } from 'zod';
import type { instrument, station, system } from '@/server/contract';

export type Station = z.output<typeof station>;
export type Instrument = z.output<typeof instrument>;
export type System = z.output<typeof system>;
