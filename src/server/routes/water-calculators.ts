import { waterCalculators as resource } from '@/contract/water-calculators';
import { oxygenHeld } from '@/core/chem/oxygen';
import { vapourDeficit } from '@/core/chem/vapour';
import { dilute } from '@/core/mix/dilute';
import { nutrientDose } from '@/core/mix/nutrient-dose';
import type { Answer } from '@/core/problem';
import { DRAIN_LIMITS, drainPair } from '@/core/rootzone/drain-pair';
import { lookInto } from '@/core/rootzone/extract';
import { loopOutlook } from '@/core/rootzone/loop-salt';
import { acidDemand } from '@/core/water/acid-demand';
import { baseDemand } from '@/core/water/base-demand';
import { blend } from '@/core/water/blend';
import { gradeWater } from '@/core/water/classes';
import { ION_KEYS, type Ions, readReport } from '@/core/water/ions';
import { Refusal } from '@/service/refusal';
import { problemWords } from '@/words/en/problem';
import { remarkWords } from '@/words/en/remark';
import { handle } from '../dispatch';

/** What was computed, or the refusal of what could not be. */
function computed<T>(result: Answer<T>): T {
	if (result.ok) return result.value;
	throw new Refusal('cannot-be-computed', [{ path: result.problem.field, message: problemWords(result.problem) }]);
}

const chargedIons = (body: Record<string, number | undefined>): Ions =>
	Object.fromEntries(ION_KEYS.flatMap((k) => (body[k] === undefined ? [] : [[k, body[k]]])));

export const waterCalculators = handle(resource, {
	'POST /calc/blend': ({ body }) =>
		computed(
			blend(
				body.waters.map((w) => ({ ...w, ions: w.ions && chargedIons(w.ions) })),
				body.target ?? {},
				body.totalL,
			),
		),
	'POST /calc/acid': ({ body }) => {
		const { phNextDay, cautions, ...rest } = computed(acidDemand(body));
		return {
			...rest,
			cautions: cautions.map(remarkWords),
			phNextDayStill: phNextDay.still,
			phNextDayMoved: phNextDay.moved,
		};
	},
	'POST /calc/base': ({ body }) => {
		const { cautions, ...rest } = computed(baseDemand(body));
		return { ...rest, cautions: cautions.map(remarkWords) };
	},
	'POST /calc/oxygen': ({ body: { mgL, ...at } }) => {
		const held = oxygenHeld(at);
		if (held === null) throw new Refusal('cannot-be-computed', [{ path: 'temp_c', message: 'From 0 to 40 °C.' }]);
		return { saturationMgL: held, percent: mgL === undefined ? null : (100 * mgL) / held };
	},
	'POST /calc/vapour': ({ body }) => ({ deficitKpa: vapourDeficit(body.airC, body.humidityPct) }),
	'POST /calc/dilute': ({ body }) => computed(dilute(body)),
	'POST /calc/nutrient-dose': ({ body }) => computed(nutrientDose(body)),
	'POST /calc/water-report': ({ body }) => {
		const ions = chargedIons(body.ions);
		const report = readReport(ions, body.ecUsCm ?? null);
		if (!report) throw new Refusal('cannot-be-computed', [{ path: 'ions', message: 'Give at least one ion in mg/L.' }]);
		return {
			...report,
			odd: report.odd.map((r) => ({ code: r.code, message: remarkWords(r) })),
			grades: gradeWater({
				hardnessMgLCaco3: ions.ca_mg_l !== undefined && ions.mg_mg_l !== undefined ? report.hardnessMgLCaco3 : null,
				ecUsCm: body.ecUsCm ?? null,
				naMgL: ions.na_mg_l,
				clMgL: ions.cl_mg_l,
				hco3MgL: ions.hco3_mg_l,
				sar: ions.na_mg_l !== undefined ? report.sar : null,
				boronMgL: body.ions.b_mg_l,
			}),
		};
	},
	'POST /calc/extract': ({ body }) => lookInto(body.method, body.readUsCm, body.feedUsCm, DRAIN_LIMITS[body.preset]),
	'POST /calc/loop-salt': ({ body }) => {
		const found = computed(loopOutlook(body));
		return { ...found, settlesMmolL: Number.isFinite(found.settlesMmolL) ? found.settlesMmolL : null };
	},
	'POST /calc/drain': ({ body }) => {
		const { actions, ...rest } = computed(drainPair(body));
		return { ...rest, actions: actions.map(remarkWords) };
	},
});
