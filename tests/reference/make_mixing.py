# Reference values for base demand, degassing, the pH of a top-up, what feeds hold and the posterior of a dose, by other means
# than the application's: the full charge balance with every ion, solved with scipy.optimize.brentq; feeds with Davies
# activities iterated to their own ionic strength and every calcium and magnesium pair by its equilibrium; the loss of carbon
# dioxide with scipy.integrate.solve_ivp; the posterior on a far finer grid with numpy. Constants typed from Plummer and Busenberg (1982)
# and the CRC Handbook. Debian packages python3-scipy, python3-numpy. Usage: python3 make_mixing.py > mixing.json
import json
import math
import numpy as np
from scipy.integrate import solve_ivp
from scipy.optimize import brentq
from carbonate_constants import constants


def carbonate(h, ct, k):
    k1, k2, _, _ = k
    d = h * h + k1 * h + k1 * k2
    return ct * h * h / d, ct * k1 * h / d, ct * k1 * k2 / d


def phosphate_charge(h, pt):
    a = [10 ** -2.148, 10 ** -7.198, 10 ** -12.35]
    s = [1, a[0] / h, a[0] * a[1] / h ** 2, a[0] * a[1] * a[2] / h ** 3]
    return pt * (s[1] + 2 * s[2] + 3 * s[3]) / sum(s)


def strong_charge(ph, ct, k, pt=0.0):
    """Net strong cations (eq/L) that make the solution neutral at a pH."""
    h = 10 ** -ph
    _, b, c = carbonate(h, ct, k)
    return b + 2 * c + k[3] / h - h + phosphate_charge(h, pt)


def ct_of(alk, ph, k):
    return brentq(lambda ct: strong_charge(ph, ct, k) - alk, 0, 1, xtol=1e-16)


bases = []
for kind, cations, carbon, g in [
    ("potassium hydroxide", 1, 0, 56.105),
    ("potassium carbonate", 2, 1, 138.205),
    ("potassium bicarbonate", 1, 1, 100.115),
    ("potassium silicate", 2, 0, 154.279),
]:
    for t, alk, ph, target in [(20, 20, 5.5, 6.5), (25, 60, 6.0, 7.0), (12, 150, 6.5, 7.5), (25, 5, 5.2, 6.0)]:
        k = constants(t)
        eq = alk / 50.04 / 1000
        ct = ct_of(eq, ph, k)
        x = brentq(lambda m: strong_charge(target, ct + carbon * m, k) - eq - cations * m, 0, 0.5, xtol=1e-16)
        bases.append(dict(kind=kind, temp_c=t, alkalinity=alk, ph=ph, target=target, mmol=1000 * x, g_1000_l=1000 * x * g))

degassing = []
for t, alk, ph in [(20, 34.0, 5.8), (25, 34.0, 5.8), (15, 210.0, 7.0), (20, 12.0, 6.0)]:
    k = constants(t)
    eq = alk / 50.04 / 1000
    ct0 = ct_of(eq, ph, k)
    air = k[2] * 420e-6

    def ph_of(ct):
        return brentq(lambda p: strong_charge(p, ct, k) - eq, 2, 13, xtol=1e-12)

    for rate, hours in [(0.04, 24), (0.8, 3), (0.8, 24)]:
        r = solve_ivp(
            lambda _, y: [-rate * (carbonate(10 ** -ph_of(y[0]), y[0], k)[0] - air)],
            (0, hours),
            [ct0],
            rtol=1e-9,
            atol=1e-13,
            method="LSODA",
        )
        degassing.append(dict(temp_c=t, alkalinity=alk, ph=ph, per_hour=rate, hours=hours, after=ph_of(r.y[0][-1])))

# A feed as all of its ions: potassium, calcium, magnesium, nitrate, sulfate, phosphate, carbonate. Pair constants (log K at
# 25 °C, I = 0): CaHPO4 2.74, MgHPO4 2.91, CaH2PO4 1.4, MgH2PO4 1.5, CaSO4 2.3, MgSO4 2.37, CaHCO3 1.1, MgHCO3 1.07
# (Stumm and Morgan, Aquatic Chemistry, and the CRC Handbook; from memory).
PAIRS = {
    ("ca", "hpo4"): 2.74,
    ("mg", "hpo4"): 2.91,
    ("ca", "h2po4"): 1.4,
    ("mg", "h2po4"): 1.5,
    ("ca", "so4"): 2.3,
    ("mg", "so4"): 2.37,
    ("ca", "hco3"): 1.1,
    ("mg", "hco3"): 1.07,
}
CHARGE = {"ca": 2, "mg": 2, "hpo4": -2, "h2po4": -1, "so4": -2, "hco3": -1}


def speciate(ph, total, t):
    """Free and paired species (mol/L) of a feed at a pH, with activities; total in mol/L."""
    k1, k2, _, kw = constants(t)
    ah = 10 ** -ph
    ionic = 0.02
    free = {"ca": total["ca"], "mg": total["mg"]}
    for _ in range(400):
        r = math.sqrt(ionic)
        f = r / (1 + r) - 0.3 * ionic
        a = 0.509
        g = lambda z: 10 ** (-a * z * z * f)
        g1, g2, g3 = g(1), g(2), g(3)
        kp1, kp2, kp3 = 10 ** -2.148 / g1, 10 ** -7.198 * g1 / g2, 10 ** -12.35 * g2 / g3
        kc1, kc2 = k1 / g1, k2 * g1 / g2
        pair = {}
        for (m, x), lk in PAIRS.items():
            z = CHARGE[m] + CHARGE[x]
            pair[(m, x)] = 10 ** lk * g2 * g(CHARGE[x]) / g(z)
        up = {x: 1 + sum(pair[(m, y)] * free[m] for (m, y) in pair if y == x) for x in ("hpo4", "h2po4", "so4", "hco3")}
        h2 = total["p"] / (ah / kp1 + up["h2po4"] + kp2 / ah * up["hpo4"] + kp2 * kp3 / ah ** 2)
        hpo4, po4 = h2 * kp2 / ah, h2 * kp2 * kp3 / ah ** 2
        hco3 = total["c"] / (ah / kc1 + up["hco3"] + kc2 / ah)
        co3 = hco3 * kc2 / ah
        so4 = total["s"] / up["so4"]
        anions = {"hpo4": hpo4, "h2po4": h2, "so4": so4, "hco3": hco3}
        new = {m: total[m] / (1 + sum(pair[(q, x)] * anions[x] for (q, x) in pair if q == m)) for m in ("ca", "mg")}
        pairs = {(m, x): pair[(m, x)] * new[m] * anions[x] for (m, x) in pair}
        h, oh = ah / g1, kw / g1 / ah
        i = 0.5 * (
            4 * (new["ca"] + new["mg"] + hpo4 + so4 + co3)
            + 9 * po4
            + h2
            + hco3
            + h
            + oh
            + total["k"]
            + total["n"]
            + sum((CHARGE[m] + CHARGE[x]) ** 2 * c for (m, x), c in pairs.items())
        )
        if abs(i - ionic) < 1e-10 and max(abs(new[m] - free[m]) for m in new) < 1e-12:
            break
        ionic = 0.5 * (ionic + i)
        free = {m: 0.5 * (free[m] + new[m]) for m in free}
    weak = (
        h2
        + 2 * hpo4
        + 3 * po4
        + hco3
        + 2 * co3
        + oh
        - h
        + 2 * sum(c for (m, x), c in pairs.items() if x == "hpo4")
        + sum(c for (m, x), c in pairs.items() if x in ("h2po4", "hco3"))
    )
    # Charge of the weak acids, ionic strength, dissolved carbon dioxide.
    return weak, i, hco3 * ah / kc1


def feed(ec_ms, p, c=0.0):
    """A usual feed of this strength, mol/L, with so much phosphate and carbonate."""
    x = ec_ms / 2.0
    return dict(k=6e-3 * x, ca=4e-3 * x, mg=1.6e-3 * x, n=14e-3 * x, s=1.8e-3 * x, p=p / 1000, c=c / 1000)


def weak_charge(ph, total, t):
    return speciate(ph, total, t)[0]


held_feeds = []
for t, ec, p, c in [(25, 2.0, 1.5, 0.0), (20, 1.2, 1.0, 0.0), (20, 2.4, 2.0, 1.0), (20, 1.8, 1.2, 3.0), (15, 1.0, 0.7, 0.5)]:
    total = feed(ec, p, c)
    for a, b_ in [(6.8, 5.8), (6.4, 5.6), (7.2, 6.2)]:
        held_feeds.append(
            dict(
                temp_c=t,
                ec_us_cm=1000 * ec,
                phosphate=p,
                carbonate=c,
                ph=a,
                to=b_,
                takes=1000 * (weak_charge(a, total, t) - weak_charge(b_, total, t)),
            )
        )

top_up = []
for ec, volume, ph, p, add, wph, walk in [
    (1.8, 900, 5.8, 1.2, 100, 7.4, 210),
    (1.2, 12, 6.0, 0.8, 2, 7.8, 150),
    (1.6, 36, 6.2, 1.0, 4, 6.3, 12),
    (2.2, 2000, 5.6, 1.5, 400, 7.5, 60),
    (2.0, 80, 5.9, 1.3, 20, 7.6, 180),
]:
    t = 20
    k1, k2, kh, kw = constants(t)
    eq = walk / 50.04 / 1000
    water = dict(k=0.0, ca=0.4 * eq, mg=0.1 * eq, n=0.0, s=0.0, p=0.0)
    ct2 = brentq(lambda ct: weak_charge(wph, dict(water, c=ct), t) - eq, 1e-9, 0.1, xtol=1e-15)
    air = kh * 420e-6
    tank = feed(ec, p)
    ct1 = brentq(lambda ct: speciate(ph, dict(tank, c=ct), t)[2] - air, 1e-9, 0.05, xtol=1e-15)
    tank["c"] = ct1
    water["c"] = ct2
    z1 = weak_charge(ph, tank, t)
    mix = lambda a_, b_: (volume * a_ + add * b_) / (volume + add)
    both = {key: mix(tank[key], water[key]) for key in tank}
    after = brentq(lambda x: weak_charge(x, both, t) - mix(z1, eq), 3, 11, xtol=1e-10)
    top_up.append(
        dict(
            ec_us_cm=1000 * ec,
            volume=volume,
            ph=ph,
            phosphate=p,
            add=add,
            water_ph=wph,
            water_alkalinity=walk,
            water_ec_us_cm=1000 * 0.115 * 1000 * eq,
            after=after,
        )
    )

# Posterior of doses in a closed tank: carbonate and phosphate log-normal, each reading a Gaussian observation of the pH whose
# width is the noise in equivalents over the buffer there; quantiles of what a further way takes.
k = constants(20)


def held(ph, c, p):
    h = 10 ** -ph
    _, b, two = carbonate(h, c / 1000, k)
    return 1000 * (b + 2 * two + k[3] / h - h) + p / (1 + 10 ** (7.198 - ph))


posterior = []
for med, sd, doses, to in [
    ((1.0, 1.0), (0.9, 0.6), [(7.0, 6.8, 0.2)], (6.8, 5.8)),
    ((1.0, 1.0), (0.9, 0.6), [(7.0, 6.8, 0.2), (6.8, 6.2, 0.8)], (6.2, 5.8)),
    ((3.0, 0.8), (0.3, 0.6), [(6.9, 6.4, 1.2)], (6.4, 5.9)),
]:
    z = np.linspace(-4, 4, 901)
    zc, zp = np.meshgrid(z, z, indexing="ij")
    c, p = med[0] * np.exp(sd[0] * zc), med[1] * np.exp(sd[1] * zp)
    log_w = -(zc ** 2 + zp ** 2) / 2
    u = math.sqrt(0.04 ** 2 + 0.06 ** 2 + 0.06 ** 2)
    for a, b, y in doses:
        slope = lambda x: (held(x + 0.01, c, p) - held(x - 0.01, c, p)) / 0.02
        noise = np.sqrt((u * y) ** 2 + (0.025 * slope(a)) ** 2 + (0.025 * slope(b)) ** 2 + 0.005 ** 2)
        miss = held(a, c, p) - y - held(b, c, p)
        log_w += -np.minimum(np.abs(miss) / noise, 4) ** 2 / 2 - np.log(noise / slope(b))
    w = np.exp(log_w - log_w.max()).ravel()
    takes = (held(to[0], c, p) - held(to[1], c, p)).ravel()
    order = np.argsort(takes)
    cdf = np.cumsum(w[order]) / w.sum()
    q = {str(f): float(takes[order][np.searchsorted(cdf, f)]) for f in (0.05, 0.5, 0.95)}
    posterior.append(dict(median=med, sd_ln=sd, doses=doses, way=to, quantiles=q))

print(
    json.dumps(
        dict(bases=bases, degassing=degassing, feeds=held_feeds, top_up=top_up, posterior=posterior), indent=1
    )
)
