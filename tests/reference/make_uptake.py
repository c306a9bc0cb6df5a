"""What plants took from a tank, by an independent Monte Carlo (numpy, 2,000,000 draws a case), for tests/unit/core/rootzone/uptake.test.ts.

Run: python3 tests/reference/make_uptake.py > tests/reference/uptake.json   (Debian: python3-numpy)
"""
import json
import numpy as np

rng = np.random.default_rng(23)
N = 2_000_000


def case(name, meter_share, stretches):
    z = rng.standard_normal
    meter = 1 + meter_share * z(N)
    salt = drunk = 0.0
    for (e1, u1, v1, w1, e2, u2, v2, w2) in stretches:
        a, b = v1 + w1 * z(N), v2 + w2 * z(N)
        salt = salt + (e1 * meter + u1 * z(N)) * a - (e2 * meter + u2 * z(N)) * b
        drunk = drunk + a - b
    ok = drunk > 0
    taken = np.quantile(salt[ok] / drunk[ok], [0.025, 0.975])
    return {
        "name": name,
        "meter_share": meter_share,
        "stretches": stretches,
        "taken": [float(x) for x in taken],
    }


# EC first, u, litres, u; EC last, u, litres, u
week = [2000, 20, 100, 0.5, 2200, 22, 75, 0.5]
print(
    json.dumps(
        [
            case("a week, by dipstick", 0.02, [week]),
            case("EC falls with the level", 0.02, [[2000, 20, 100, 0.5, 1700, 17, 70, 0.5]]),
            case("a meter that is far off", 0.06, [week]),
            case("a month of weeks", 0.02, [week, [2000, 20, 100, 0.5, 2150, 21.5, 78, 0.5], [1980, 19.8, 100, 0.5, 2230, 22.3, 72, 0.5], week]),
            case("a passive tank, to the mark", 0.03, [[1600, 16, 40, 0.3, 1750, 17.5, 33, 0.35], [1620, 16.2, 40, 0.3, 1790, 17.9, 32, 0.35]]),
        ],
        indent=1,
    )
)
