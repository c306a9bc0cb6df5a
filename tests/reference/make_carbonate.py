# Reference values for the carbonate system, by an independent numerical solution: the full charge balance solved with
# scipy.optimize.brentq on ln[H+] (not by bisection on alkalinity), constants typed from Plummer and Busenberg (1982).
# Debian packages python3-scipy, python3-numpy. Usage: python3 make_carbonate.py > carbonate.json
import json
import math
from scipy.optimize import brentq
from carbonate_constants import constants


def species(ln_h, ct, k):
    k1, k2, _, kw = k
    h = math.exp(ln_h)
    denominator = h * h + k1 * h + k1 * k2
    return h, ct * k1 * h / denominator, ct * k1 * k2 / denominator, kw / h


def total(alk_eq, ph, k):
    """Total carbonate such that the charge balance closes at this pH, found numerically."""
    ln_h = -ph * math.log(10)

    def gap(ct):
        h, b, c, oh = species(ln_h, ct, k)
        return b + 2 * c + oh - h - alk_eq

    return brentq(gap, 0, 1, xtol=1e-16)


def closed_demand(alk_eq, ph, target, k):
    """Strong acid added until the charge balance closes at the target."""
    ct = total(alk_eq, ph, k)
    ln_h = -target * math.log(10)

    def gap(acid):
        h, b, c, oh = species(ln_h, ct, k)
        return alk_eq - acid - (b + 2 * c + oh - h)

    return brentq(gap, -1, 1, xtol=1e-16)


def open_ph(alk_eq, pco2, k):
    k1, k2, kh, kw = k
    d = kh * pco2

    def gap(ln_h):
        h = math.exp(ln_h)
        return d * k1 / h + 2 * d * k1 * k2 / h / h + kw / h - h - alk_eq

    return -brentq(gap, -14 * math.log(10), -1 * math.log(10), xtol=1e-14) / math.log(10)


rows = []
for t_c in (5, 15, 25, 35):
    k = constants(t_c)
    for alk in (20, 60, 150, 300):
        for ph in (6.8, 7.8, 8.4):
            for target in (5.5, 5.8, 6.2):
                eq = alk / 50.04 / 1000
                demand = closed_demand(eq, ph, target, k)
                rows.append(
                    {
                        "temp_c": t_c,
                        "alkalinity": alk,
                        "ph": ph,
                        "target": target,
                        "meq": 1000 * demand,
                        "rebound": open_ph(eq - demand, 420e-6, k),
                    }
                )
print(json.dumps(rows, indent=0))
