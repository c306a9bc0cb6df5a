# Reference values for base demand, degassing, the pH of a top-up and the posterior of a dose, by other means than the
# application's: the full charge balance with every ion, solved with scipy.optimize.brentq; the loss of carbon dioxide with
# scipy.integrate.solve_ivp; the posterior on a far finer grid with numpy. Constants typed from Plummer and Busenberg (1982)
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

top_up = []
for volume, ph, p, add, wph, walk in [
    (900, 5.8, 1.2, 100, 7.4, 210),
    (12, 6.0, 0.8, 2, 7.8, 150),
    (36, 6.2, 1.0, 4, 6.3, 12),
    (2000, 5.6, 1.5, 400, 7.5, 60),
]:
    k = constants(20)
    h = 10 ** -ph
    ct1 = k[2] * 420e-6 * (1 + k[0] / h + k[0] * k[1] / h / h)
    z1 = strong_charge(ph, ct1, k, p / 1000)
    eq = walk / 50.04 / 1000
    ct2 = ct_of(eq, wph, k)
    share = lambda a, b: (volume * a + add * b) / (volume + add)
    after = brentq(
        lambda x: strong_charge(x, share(ct1, ct2), k, share(p / 1000, 0)) - share(z1, eq), 3, 11, xtol=1e-12
    )
    top_up.append(dict(volume=volume, ph=ph, phosphate=p, add=add, water_ph=wph, water_alkalinity=walk, after=after))

# Posterior of one dose: two log-normal factors, one Gaussian observation, quantiles of what a further way takes.
k = constants(20)


def held(ph):
    ct = ct_of(1e-3, 7.5, k)
    h = 10 ** -ph
    _, b, c = carbonate(h, ct, k)
    return np.array([1000 * (b + 2 * c + k[3] / h - h), 1 / (1 + 10 ** (7.198 - ph))])


def way(a, b):
    return np.abs(held(a) - held(b))


def slope(ph):
    return way(ph - 0.02, ph + 0.02) / 0.04


posterior = []
for med, sd, doses, to in [
    ((0.25, 0.25), (0.9, 0.6), [(7.0, 6.8, 0.05)], (6.8, 5.8)),
    ((0.25, 0.25), (0.9, 0.6), [(7.0, 6.8, 0.05), (6.8, 6.2, 0.2)], (6.2, 5.8)),
    ((1.0, 0.5), (0.3, 0.6), [(6.9, 6.4, 0.5)], (6.4, 5.9)),
]:
    # As wide as the application's own prior is cut: 2.8 standard deviations either side.
    z = np.linspace(-2.8, 2.8, 1201)
    zc, zp = np.meshgrid(z, z, indexing="ij")
    c, p = med[0] * np.exp(sd[0] * zc), med[1] * np.exp(sd[1] * zp)
    log_w = -(zc ** 2 + zp ** 2) / 2
    u = math.hypot(0.04, 0.06)
    for a, b, y in doses:
        x = way(a, b)
        predicted = c * x[0] + p * x[1]
        sa, sb = slope(a), slope(b)
        noise = np.sqrt(
            (u * predicted) ** 2 + (0.02 * (c * sa[0] + p * sa[1])) ** 2 + (0.02 * (c * sb[0] + p * sb[1])) ** 2
        )
        log_w += -np.minimum(np.abs(y - predicted) / noise, 4) ** 2 / 2 - np.log(noise)
    w = np.exp(log_w - log_w.max()).ravel()
    x = way(*to)
    takes = (c * x[0] + p * x[1]).ravel()
    order = np.argsort(takes)
    cdf = np.cumsum(w[order]) / w.sum()
    q = {str(f): float(takes[order][np.searchsorted(cdf, f)]) for f in (0.05, 0.5, 0.95)}
    posterior.append(dict(median=med, sd_ln=sd, doses=doses, way=to, quantiles=q))

print(json.dumps(dict(bases=bases, degassing=degassing, top_up=top_up, posterior=posterior), indent=1))
