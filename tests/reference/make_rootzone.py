"""Salt balances by an independent Monte Carlo (numpy, 2,000,000 draws a case), for tests/unit/core/rootzone; the output is committed beside this script.

Run: python3 tests/reference/make_rootzone.py > tests/reference/rootzone.json   (Debian: python3-numpy)
"""
import json
import numpy as np

rng = np.random.default_rng(11)
N = 2_000_000


def case(name, washings, one_meter):
    z = rng.standard_normal
    jug_a, jug_d, meter, other = z(N), z(N), z(N), z(N)
    applied = drained = salt_in = salt_out = 0.0
    for (a, ua, d, ud, f, uf, sf, e, ue, se) in washings:
        va = a + ua * jug_a
        vd = d + ud * jug_d
        feed = f * (1 + sf * meter) + uf * z(N)
        drain = e * (1 + se * (meter if one_meter else other)) + ue * z(N)
        applied = applied + va
        drained = drained + vd
        salt_in = salt_in + va * feed
        salt_out = salt_out + vd * drain
    ok = (applied > 0) & (drained >= 0) & (drained <= applied)
    applied, drained, salt_in, salt_out = (x[ok] for x in (applied, drained, salt_in, salt_out))

    def bounds(x):
        return [float(v) for v in np.quantile(x, [0.025, 0.975])]

    return {
        "name": name,
        "washings": washings,
        "one_meter": one_meter,
        "fraction": bounds(drained / applied),
        "delta": bounds(salt_out / drained - salt_in / applied),
        "uptake": bounds((salt_in - salt_out) / (applied - drained)),
        "flushing": float(np.mean(salt_out > salt_in)),
    }


# applied, u, drained, u, feed EC, u, meter share, drain EC, u, meter share
day = [100, 3, 30, 0.9, 1400, 5.6, 0.02, 1800, 7.2, 0.02]
print(
    json.dumps(
        [
            case("a day, one meter", [day], True),
            case("a day, two meters", [day], False),
            case("seventy per cent of drain", [[100, 3, 70, 2.1, 1400, 5.6, 0.02, 1500, 6, 0.02]], True),
            case("a flush", [[100, 3, 60, 1.8, 1000, 4, 0.02, 2600, 10, 0.02]], True),
            case("three cups of sixty", [[6, 0.34, 1.5, 0.1, 1400, 5.6, 0.02, 1800, 7.2, 0.02]], True),
            case("a week", [day, [90, 2.7, 20, 0.6, 1410, 5.6, 0.02, 1900, 7.6, 0.02], [110, 3.3, 35, 1.05, 1390, 5.6, 0.02, 1750, 7, 0.02]], True),
        ],
        indent=1,
    )
)
