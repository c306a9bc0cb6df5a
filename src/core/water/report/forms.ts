import { CONSTANTS as C, HCO3_PER_CACO3, MG_L_CACO3_PER_MEQ } from '../../chem/constants';
import { IONS, type IonKey, type TraceKey } from '../ions';

/**
 * Names of what water holds, as laboratories write them, and the forms in which they give it: nitrate as NO3 or as N, calcium as
 * Ca, as CaO or as CaCO3. Factors from standard atomic weights.
 */
export type Dissolved = IonKey | TraceKey;
/** What a report tells beside what is dissolved. */
export type Whole = 'ec' | 'ph' | 'alkalinity' | 'hardness' | 'tds' | 'temperature';

const O = C.oxygen.value;
const H = C.hydrogen.value;
const asCaco3 = (key: IonKey): number => IONS[key].mgPerMeq / MG_L_CACO3_PER_MEQ;

/** mg of what is kept in a mg of the form; the first is the form that is kept. */
export const FORMS: Partial<Record<Dissolved, Record<string, number>>> = {
	ca_mg_l: { ca: 1, cao: C.calcium.value / (C.calcium.value + O), caco3: asCaco3('ca_mg_l') },
	mg_mg_l: { mg: 1, mgo: C.magnesium.value / (C.magnesium.value + O), caco3: asCaco3('mg_mg_l') },
	k_mg_l: { k: 1, k2o: (2 * C.potassium.value) / (2 * C.potassium.value + O) },
	na_mg_l: { na: 1, nacl: C.sodium.value / (C.sodium.value + C.chlorine.value) },
	no3_n_mg_l: { n: 1, no3: C.nitrogen.value / (C.nitrogen.value + 3 * O) },
	nh4_n_mg_l: {
		n: 1,
		nh4: C.nitrogen.value / (C.nitrogen.value + 4 * H),
		nh3: C.nitrogen.value / (C.nitrogen.value + 3 * H),
	},
	so4_mg_l: { so4: 1, s: C.sulfate.value / C.sulfur.value, so3: C.sulfate.value / (C.sulfur.value + 3 * O) },
	p_mg_l: {
		p: 1,
		po4: C.phosphorus.value / (C.phosphorus.value + 4 * O),
		h2po4: C.phosphorus.value / (C.phosphorus.value + 4 * O + 2 * H),
		p2o5: (2 * C.phosphorus.value) / (2 * C.phosphorus.value + 5 * O),
	},
	hco3_mg_l: { hco3: 1, caco3: HCO3_PER_CACO3 },
	co3_mg_l: { co3: 1, caco3: asCaco3('co3_mg_l') },
	si_mg_l: { si: 1, sio2: C.silicon.value / (C.silicon.value + 2 * O) },
	b_mg_l: { b: 1, h3bo3: C.boron.value / (C.boron.value + 3 * O + 3 * H) },
};

/** Names that mean one thing in a laboratory's report and on a label alike, and the form that they name. */
export const ELEMENTS = {
	ca: ['ca_mg_l'],
	calcium: ['ca_mg_l'],
	mg: ['mg_mg_l'],
	magnesium: ['mg_mg_l'],
	na: ['na_mg_l'],
	sodium: ['na_mg_l'],
	k: ['k_mg_l'],
	potassium: ['k_mg_l'],
	k2o: ['k_mg_l', 'k2o'],
	cl: ['cl_mg_l'],
	chloride: ['cl_mg_l'],
	so4: ['so4_mg_l', 'so4'],
	sulfate: ['so4_mg_l', 'so4'],
	sulphate: ['so4_mg_l', 'so4'],
	s: ['so4_mg_l', 's'],
	sulfur: ['so4_mg_l', 's'],
	sulphur: ['so4_mg_l', 's'],
	p: ['p_mg_l', 'p'],
	phosphorus: ['p_mg_l', 'p'],
	p2o5: ['p_mg_l', 'p2o5'],
	b: ['b_mg_l'],
	boron: ['b_mg_l'],
	fe: ['fe_mg_l'],
	iron: ['fe_mg_l'],
	mn: ['mn_mg_l'],
	manganese: ['mn_mg_l'],
	zn: ['zn_mg_l'],
	zinc: ['zn_mg_l'],
	cu: ['cu_mg_l'],
	copper: ['cu_mg_l'],
	mo: ['mo_mg_l'],
	molybdenum: ['mo_mg_l'],
	si: ['si_mg_l', 'si'],
	silicon: ['si_mg_l', 'si'],
	silica: ['si_mg_l', 'sio2'],
	sio2: ['si_mg_l', 'sio2'],
} as const satisfies Record<string, readonly [Dissolved, string?]>;

/** What a name stands for, and in which form it is meant where none is named. */
export const NAMES: Record<string, readonly [Dissolved | Whole, string?]> = {
	...ELEMENTS,
	'calcium hardness': ['ca_mg_l', 'caco3'],
	'magnesium hardness': ['mg_mg_l', 'caco3'],
	'nh4-n': ['nh4_n_mg_l', 'n'],
	'nh3-n': ['nh4_n_mg_l', 'n'],
	'n-nh4': ['nh4_n_mg_l', 'n'],
	nh4: ['nh4_n_mg_l', 'nh4'],
	nh3: ['nh4_n_mg_l', 'nh3'],
	ammonium: ['nh4_n_mg_l', 'nh4'],
	ammonia: ['nh4_n_mg_l', 'nh3'],
	'ammonium nitrogen': ['nh4_n_mg_l', 'n'],
	'ammonia nitrogen': ['nh4_n_mg_l', 'n'],
	'ammonium-n': ['nh4_n_mg_l', 'n'],
	'no3-n': ['no3_n_mg_l', 'n'],
	'n-no3': ['no3_n_mg_l', 'n'],
	'nitrate-n': ['no3_n_mg_l', 'n'],
	'nitrate nitrogen': ['no3_n_mg_l', 'n'],
	no3: ['no3_n_mg_l', 'no3'],
	nitrate: ['no3_n_mg_l', 'no3'],
	'so4-s': ['so4_mg_l', 's'],
	'sulfate-s': ['so4_mg_l', 's'],
	hco3: ['hco3_mg_l', 'hco3'],
	bicarbonate: ['hco3_mg_l', 'hco3'],
	'hydrogen carbonate': ['hco3_mg_l', 'hco3'],
	hydrogencarbonate: ['hco3_mg_l', 'hco3'],
	'bicarbonate alkalinity': ['hco3_mg_l', 'caco3'],
	co3: ['co3_mg_l', 'co3'],
	carbonate: ['co3_mg_l', 'co3'],
	'carbonate alkalinity': ['co3_mg_l', 'caco3'],
	'po4-p': ['p_mg_l', 'p'],
	'phosphate-p': ['p_mg_l', 'p'],
	po4: ['p_mg_l', 'po4'],
	phosphate: ['p_mg_l', 'po4'],
	orthophosphate: ['p_mg_l', 'po4'],
	h2po4: ['p_mg_l', 'h2po4'],
	f: ['f_mg_l'],
	fluoride: ['f_mg_l'],
	al: ['al_mg_l'],
	aluminium: ['al_mg_l'],
	aluminum: ['al_mg_l'],
	alkalinity: ['alkalinity', 'caco3'],
	'm-alkalinity': ['alkalinity', 'caco3'],
	'acid capacity': ['alkalinity', 'caco3'],
	'carbonate hardness': ['alkalinity', 'caco3'],
	kh: ['alkalinity', 'caco3'],
	hardness: ['hardness', 'caco3'],
	gh: ['hardness', 'caco3'],
	tds: ['tds'],
	'dissolved solids': ['tds'],
	ec: ['ec'],
	conductivity: ['ec'],
	'electrical conductivity': ['ec'],
	'specific conductance': ['ec'],
	conductance: ['ec'],
	ph: ['ph'],
	temperature: ['temperature'],
	temp: ['temperature'],
};
