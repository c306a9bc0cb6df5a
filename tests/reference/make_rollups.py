"""Rollups of a made-up series by numpy and Python's zoneinfo, for tests/unit/core/series/rollup.test.ts.

python3 tests/reference/make_rollups.py > tests/reference/rollups.json
"""

import json
from datetime import datetime, timezone
from zoneinfo import ZoneInfo

import numpy as np

BEGIN = datetime(2026, 3, 28, 20, 0, tzinfo=timezone.utc).timestamp()
COUNT = 3000
STEP_S = 37
i = np.arange(COUNT)
at = BEGIN + STEP_S * i
# Thousandths, so that both sides begin with the same numbers.
value = np.round(1000 * (5.9 + 0.3 * np.sin(i / 70) + 0.02 * np.sin(i * 1.3))) / 1000

ZONE = ZoneInfo("Europe/Amsterdam")


def day(t: float) -> float:
    local = datetime.fromtimestamp(t, ZONE)
    return datetime(local.year, local.month, local.day, tzinfo=ZONE).timestamp()


def rolled(keys: np.ndarray) -> list[dict]:
    out = []
    for key in np.unique(keys):
        own = value[keys == key]
        out.append(
            {
                "at": int(key * 1000),
                "least": float(own.min()),
                "greatest": float(own.max()),
                "mean": round(float(own.mean()), 9),
                "count": int(own.size),
            }
        )
    return out


steps = {
    "5min": np.floor(at / 300) * 300,
    "hour": np.floor(at / 3600) * 3600,
    "day": np.array([day(t) for t in at]),
}
print(
    json.dumps(
        {
            "begin": int(BEGIN * 1000),
            "step_ms": STEP_S * 1000,
            "values": value.tolist(),
            "rollups": {name: rolled(keys) for name, keys in steps.items()},
        }
    )
)
