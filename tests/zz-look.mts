import { pairsOf } from '../src/core/probe/error-curve/pairs';
import { SiteErrors } from '../src/core/probe/error-curve/site-errors';
import { errorBelief, restateReadings } from '../src/core/probe/timeline';
import { simulateFleet, FLEET_KINDS } from './evaluate/fleet-worlds';
const kind = FLEET_KINDS.find((k) => k.includes(process.argv[2]!))!;
const seed = Number(process.argv[3]); const quantity = (process.argv[4] ?? 'ph') as 'ph'|'ec';
const f = simulateFleet(kind, quantity, seed);
const kinds = new Map(f.probes.map((p) => [p.code, p.kind]));
const s = f.readings.map((r) => ({ id: r.id, probe: r.probe, continuous: kinds.get(r.probe) === 'continuous', station: r.station, sample: r.sample < 0 ? null : String(r.sample), at: r.at, value: r.value, uRepeat: r.uRepeat }));
const probes = f.probes.map((p) => ({ code: p.code, calibrations: f.calibrations.filter((c) => c.probe === p.code), jumps: f.jumps.filter((j) => j.probe === p.code), kit: p.kind==='kit'?{halfStep:0.25}:undefined }));
const pairs = pairsOf(quantity, s, () => false);
const J = new SiteErrors(quantity, probes, pairs); const A = new SiteErrors(quantity, probes, []);
console.log(kind, f.days, 'pairs', pairs.length);
for (const p of f.probes) {
  const e = J.of(p.code)!;
  console.log(p.code, 'sigma', e.drift.sigmaPerRootDay.toFixed(4), 'rate', e.drift.ratePerDay.toFixed(4), 'from', e.drift.from, 'cals', probes.find(x=>x.code===p.code)!.calibrations.map((c)=>`${((c.at-f.readings[0]!.at)/864e5).toFixed(0)}${c.kind[0]}${c.points.map(q=>((q.asFound!-q.nominal)).toFixed(2)).join('/')}`).join(' '), 'jumps', probes.find(x=>x.code===p.code)!.jumps.map(c=>((c.at-f.readings[0]!.at)/864e5).toFixed(0)).join(' '), 'hidden', f.hidden.filter(h=>h.probe===p.code).map(h=>`${((h.at-f.readings[0]!.at)/864e5).toFixed(0)}:${h.size.toFixed(2)}`).join(' '));
  if (p.kind==='kit') continue;
  const own = f.readings.filter((r) => r.probe === p.code);
  const j = restateReadings(quantity, own, e).outcomes; const a = restateReadings(quantity, own, A.of(p.code)!).outcomes;
  let line = ''; 
  for (const [i, r] of own.entries()) if (i % Math.ceil(own.length/40) === 0) { const b = errorBelief(quantity, e, r.at, r.value); const k = quantity==='ph'?1:100/r.truth; line += `  d${((r.at-f.readings[0]!.at)/864e5).toFixed(1).padStart(5)} err ${(k*f.errorAt(p.code, r.at, r.truth)).toFixed(3)} read-truth ${(k*(r.value-r.truth)).toFixed(3)} belief ${b.error.toFixed(3)}±${(1.96*b.u).toFixed(3)} left ${(k*(j[i]!.value-r.truth)).toFixed(3)} u ${(k*1.96*j[i]!.u).toFixed(3)} alone ${(k*(a[i]!.value-r.truth)).toFixed(3)} u ${(k*1.96*a[i]!.u).toFixed(3)} ${j[i]!.status}\n`; }
  console.log(line);
}
for (const c of (J as any).componentOf.values()) { console.log(c.codes, 'loosened', [...c.causal.loosened()].map((l:any)=>`${c.codes[l.probe]}@${((l.before-f.readings[0]!.at)/864e5).toFixed(1)}`).join(' '), 'weights<1', [...c.causal.pairs()].filter((p:any)=>p.weight<1).length); break; }
