import { z } from 'zod';
import { ENGINE_VERSION } from '@/core/reading/model';
import { databaseAnswers } from '@/store/site';
import { openApi } from '../openapi';
import { type Operation, operation } from '../operation';
import { VERSION } from '../version';
import { calculators } from './calculators';
import { intake } from './intake';
import { live } from './live';
import { mix } from './mix';
import { probes } from './probes';
import { readings } from './readings';
import { records } from './records';
import { rounds } from './rounds';
import { water } from './water';
import { waterCalculators } from './water-calculators';

const health = operation({
	method: 'GET',
	path: '/health',
	tag: 'About',
	summary: 'Answers only when the database answers',
	response: z.object({ status: z.literal('ok'), version: z.string(), engine: z.number() }),
	run: async ({ pool }) => {
		await databaseAnswers(pool());
		return { status: 'ok', version: VERSION, engine: ENGINE_VERSION };
	},
});

const description = operation({
	method: 'GET',
	path: '/openapi.json',
	tag: 'About',
	summary: 'This document',
	response: z.record(z.string(), z.unknown()),
	run: () => openApi(operations),
});

/** Every operation of the API. */
export const operations: Operation[] = [
	health,
	description,
	...calculators,
	...waterCalculators,
	...readings,
	...records,
	...rounds,
	...water,
	...mix,
	...live,
	...probes,
	...intake,
];
