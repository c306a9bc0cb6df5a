"""Kendall's test and Theil-Sen slopes from scipy, for tests/unit/core/trend; the output is committed beside this script.

Run: python3 tests/reference/make_trend.py > tests/reference/trend.json   (Debian: python3-scipy)
"""
import json
import numpy as np
from scipy import stats

rng = np.random.default_rng(23)
cases = []
for n, slope, step in ((5, 0.1, 0), (8, 0.02, 0), (10, -0.05, 0), (12, 0.03, 0.1), (25, 0.0, 0.05), (40, 0.01, 0.02), (60, -0.004, 0.1)):
    x = np.sort(rng.choice(np.arange(0, 90), n, replace=False)).astype(float)
    y = 6 + slope * x + rng.normal(0, 0.1, n)
    y = np.round(y / step) * step if step else y.round(6)
    # Exact where there are no ties and few values, as in the application.
    exact = len(set(y.tolist())) == n and n <= 10
    tau = stats.kendalltau(x, y, method="exact" if exact else "asymptotic")
    t = stats.theilslopes(y, x, alpha=0.95)
    cases.append({"x": x.tolist(), "y": y.tolist(), "p": float(tau.pvalue), "slope": float(t.slope), "low": float(t.low_slope), "high": float(t.high_slope)})


def pettitt(v):
    # Through ranks: U_t = 2 * sum of the first t ranks - t (n + 1), scipy's ranks with ties as means.
    n = len(v)
    r = stats.rankdata(v)
    u = 2 * np.cumsum(r)[:-1] - np.arange(1, n) * (n + 1)
    k = float(np.max(np.abs(u)))
    return {"values": list(v), "k": k, "after": int(np.argmax(np.abs(u))) + 1, "p": float(min(1, 2 * np.exp(-6 * k * k / (n**3 + n**2))))}


changes = []
for n, at, step in ((14, 7, 0.1), (20, 15, 0.05), (30, 10, 0.0), (40, 30, 0.03), (60, 20, -0.06)):
    v = rng.normal(0.05, 0.05, n)
    v[at:] += step
    changes.append(pettitt(v.round(2).tolist()))
print(json.dumps({"kendall": cases, "pettitt": changes}, indent=1))
