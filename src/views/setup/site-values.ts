import { USUAL_WAITS } from '@/core/judge/waits';
import { readNumber, showNumber } from './numbers';
import type { WholeSite } from './use-setup';

/** The fields of the site's form, as they are typed. */
export const siteValues = (site: WholeSite) => {
	const waits = site.settings.waits ?? USUAL_WAITS;
	return {
		name: site.name,
		timezone: site.timezone,
		ec: site.units.ec ?? 'mS/cm',
		temp: site.units.temp ?? 'C',
		volume: site.units.volume ?? 'L',
		sensitivity: site.settings.sensitivity ?? 'usual',
		altitude: String(site.settings.altitudeM ?? 0),
		latitude: showNumber(site.settings.latitude),
		longitude: showNumber(site.settings.longitude),
		waitPh: String(waits.ph),
		waitLow: String(waits.phLowMineral),
		waitEc: String(waits.ec),
	};
};
export type SiteValues = ReturnType<typeof siteValues>;

/** Where what is sent stands in the form, where it is not called the same. */
export const SITE_FIELDS = {
	'units.ec': 'ec',
	'units.temp': 'temp',
	'units.volume': 'volume',
	'settings.sensitivity': 'sensitivity',
	'settings.altitudeM': 'altitude',
	'settings.latitude': 'latitude',
	'settings.longitude': 'longitude',
	'settings.waits.ph': 'waitPh',
	'settings.waits.phLowMineral': 'waitLow',
	'settings.waits.ec': 'waitEc',
} as const;

/** The site as its checked form says it; what the form does not show stays. */
export function readSite(site: WholeSite, v: SiteValues): WholeSite {
	const first = siteValues(site);
	const usual = v.waitPh === first.waitPh && v.waitLow === first.waitLow && v.waitEc === first.waitEc;
	const waits = {
		ph: readNumber(v.waitPh) ?? USUAL_WAITS.ph,
		phLowMineral: readNumber(v.waitLow) ?? USUAL_WAITS.phLowMineral,
		ec: readNumber(v.waitEc) ?? USUAL_WAITS.ec,
	};
	return {
		...site,
		name: v.name.trim() || site.name,
		timezone: v.timezone,
		units: { ...site.units, ec: v.ec, temp: v.temp, volume: v.volume },
		settings: {
			...site.settings,
			// What nobody touched goes on following what is usual.
			...(usual ? {} : { waits }),
			...(v.latitude === first.latitude && v.longitude === first.longitude
				? {}
				: { latitude: readNumber(v.latitude), longitude: readNumber(v.longitude) }),
			...(v.altitude === first.altitude ? {} : { altitudeM: readNumber(v.altitude) ?? 0 }),
			...(v.sensitivity === first.sensitivity ? {} : { sensitivity: v.sensitivity }),
		},
	};
}
