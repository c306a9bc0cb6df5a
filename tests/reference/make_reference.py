"""Reference values from scipy and numpy for the unit tests; the output is committed beside this script.

Run: python3 tests/reference/make_reference.py > tests/reference/scipy.json   (Debian: python3-scipy)
"""
import json
import numpy as np
from scipy import stats
from scipy.interpolate import CubicSpline

rng = np.random.default_rng(7)
samples = [rng.normal(5.9, 0.1, n).round(3).tolist() for n in (1, 2, 5, 8, 15, 40)]
samples.append([5.8, 5.9, 5.9, 6.0, 58.0])
robust = [
    {
        "values": v,
        "median": float(np.median(v)),
        "mad_sigma": float(stats.median_abs_deviation(v, scale="normal")),
    }
    for v in samples
]
lines = []
for n in (3, 6, 9, 20):
    x = np.sort(rng.uniform(0, 30, n)).round(3)
    y = (0.05 * x + rng.normal(0, 0.2, n)).round(4)
    lines.append({"x": x.tolist(), "y": y.tolist(), "slope": float(stats.theilslopes(y, x)[0])})
t = [0, 10, 20, 25, 30, 35]
f = [1.918, 1.428, 1.116, 1.0, 0.903, 0.822]
spline = CubicSpline(t, np.log(f), bc_type="natural")
f25 = [{"temp_c": float(c), "f": float(np.exp(spline(c)))} for c in np.arange(0, 35.1, 1.25)]
print(json.dumps({"robust": robust, "theil_sen": lines, "f25": f25}, indent=1))
