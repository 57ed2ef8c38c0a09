#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""The same equations solved once more with NumPy and SciPy, beside ours in one run: agreement and ratio of time.

Reads the JSON of amber-reference from a file or standard input and prints docs/performance.md's second table. Ends with 1
when an answer differs by more than it may. A benchmark only: the program does not use it.
"""
import json
import sys
import time

import numpy as np
from scipy.integrate import solve_ivp
from scipy.interpolate import CubicSpline, PchipInterpolator
from scipy.optimize import toms748

GAS, CP = 287.05287, 1004.7


def best(work, times=5):
    taken = []
    for _ in range(times):
        begin = time.perf_counter()
        result = work()
        taken.append(time.perf_counter() - begin)
    return min(taken), result


def point(e, n, boost, gear, p, t, ias, fa, mixture_power):
    """Brake power, manifold pressure and charge temperature; arrays or numbers."""
    q = 101325.0 * ((1 + 0.2 * (ias / 340.294) ** 2) ** 3.5 - 1)
    mach2 = 5 * ((q / p + 1) ** (1 / 3.5) - 1)
    carburettor = p + e["ram"] * q
    inlet = t * (1 + 0.2 * mach2) - 20.0 / 0.08 * fa
    ratios = np.array([g["ratio"] for g in e["gears"]])[gear]
    efficiency = np.array([g["efficiency"] for g in e["gears"]])[gear]
    work = e["work_factor"] * (np.pi * e["impeller"] * n * ratios) ** 2
    wide = carburettor * (1 - e["throttle_loss"]) * (1 + efficiency * work / (CP * inlet)) ** 3.5
    tm = inlet + work / CP
    pm = np.minimum(boost, wide)
    exhaust = 1.03 * p
    filling = np.maximum(0.02, e["volumetric"] * (e["compression"] - (exhaust / pm) ** (1 / 1.35)) / (e["compression"] - 1)
                         * np.sqrt(tm / 330.0))
    swept = e["displacement"] * n / 2
    air = filling * pm / (GAS * tm) * swept
    s = 2 * e["stroke"] * n
    diluted = np.maximum(0.5, 1 - 1.4 * np.maximum(0.0, 0.75 - pm / exhaust) ** 2)
    power = (air / e["isac"] * mixture_power(fa) * diluted - (e["friction_base"] + e["friction_speed"] * s * s) * swept
             - 0.7 * (exhaust - pm) * swept - air * (1 + fa) * work / 0.95)
    return power, pm, tm


def standard(h):
    t = 288.15 - 0.0065 * np.minimum(h, 11000.0)
    p = 101325.0 * (t / 288.15) ** (9.80665 / (0.0065 * GAS))
    return np.where(h > 11000, p * np.exp(-9.80665 * (h - 11000) / (GAS * 216.65)), p), t


def viscosity(t):
    a, b = np.log10(np.log10(1060.7)), np.log10(np.log10(25.7))
    slope = (a - b) / (np.log10(373.15) - np.log10(293.15))
    return 10 ** 10 ** (a + slope * np.log10(293.15) - slope * np.log10(np.clip(t, 233.15, 423.15))) - 0.7


WARM = viscosity(343.15)


def smooth(x):
    t = min(1.0, max(0.0, x))
    return t * t * (3 - 2 * t)


def rates(c, f):
    def slope(_, x):
        tm, to = x
        out = [0.0, 0.0]
        if c["air_cooled"]:
            beta = (c["gas_rated"] - c["rated_metal"]) / (c["rated_metal"] - c["rated_ambient"])
            out[0] = (f["metal_in"] * (f["gas"] - tm) - beta * f["metal_out"] * (tm - f["ambient"])) / (c["head_time"] * (1 + beta))
        else:
            opening = 0.05 + 0.95 * smooth((tm - c["thermostat"]) / 16 + 0.5)
            out[0] = (f["metal_in"] * (c["rated_metal"] - c["rated_ambient"]) * (f["gas"] - tm) / (c["gas_rated"] - c["rated_metal"])
                      - f["metal_out"] * opening / c["rated_coolant_open"] * (tm - f["ambient"])) / c["coolant_time"]
        if not f["running"]:
            out[0] = -(tm - f["ambient"]) / c["standing_time"]
            out[1] = -(to - f["ambient"]) / (1.5 * c["standing_time"])
            return out
        thick = min(2.2, (f["thinning"] * viscosity(to) / WARM) ** 0.25)
        opening = 0.12 + 0.88 * smooth((to - c["oil_thermostat"]) / 24 + 0.5)
        out[1] = (f["oil_in"] * max(0.7, thick) * (c["rated_oil"] - c["rated_ambient"])
                  - f["oil_out"] * opening / c["rated_oil_open"] * (to - f["ambient"])) / c["oil_time"]
        return out

    return slope


def main():
    data = json.load(open(sys.argv[1]) if len(sys.argv) > 1 else sys.stdin)
    e = data["engine"]
    knots = [(.050, .72), (.055, .82), (.060, .895), (.067, .965), (.074, .993), (.080, 1), (.087, .993), (.095, .972), (.105, .935)]
    curve = PchipInterpolator(*np.array(knots).T)
    p = np.array(data["points"])
    gear = p[:, 2].astype(int)
    # Every point of the chart has one mixture: its place on the curve is taken once, as ours is told.
    ours, worst = p[:, 7], {}
    took, (power, pm, tm) = best(lambda: point(e, p[:, 0], p[:, 1], gear, p[:, 3], p[:, 4], p[:, 5], p[:, 6], curve))
    scale = np.max(np.abs(ours))
    worst["chart"] = np.max(np.abs(power - ours)) / scale
    worst["boost"] = np.max(np.abs(pm / p[:, 8] - 1))
    worst["charge"] = np.max(np.abs(tm - p[:, 9]))
    print("| what | ours | SciPy | ratio | agreement |\n|---|---|---|---|---|")
    print(f"| chart of {len(p):,} points (NumPy, all at once) | {data['points_s'] * 1e3:.2f} ms | {took * 1e3:.2f} ms | "
          f"{took / data['points_s']:.1f} | power {worst['chart']:.1e} of the highest, boost {worst['boost']:.1e}, charge {worst['charge']:.1e} K |")
    one = lambda: [point(e, *row[:2], int(row[2]), *row[3:7], curve) for row in p[:500]]
    took, _ = best(one, 3)
    each = took / 500
    print(f"| one steady point | {data['points_s'] / len(p) * 1e9:.0f} ns | {each * 1e6:.1f} µs | {each / (data['points_s'] / len(p)):.0f} | as above |")

    def roots():
        out = []
        for rpm, boost, g, _ in data["roots"]:
            def excess(h):
                pressure, t = standard(h)
                return float(point(e, rpm, 4e5, int(g), pressure, t, 0.0, 0.085, curve)[1]) - boost
            out.append(toms748(excess, -1000, 15000, xtol=0.1) if excess(-1000) > 0 > excess(15000) else -1e9)
        return out
    took, found = best(roots, 3)
    worst["root"] = max(abs(x - r[3]) for x, r in zip(found, data["roots"]))
    print(f"| {len(found)} full-throttle heights (TOMS 748) | {data['roots_s'] * 1e3:.2f} ms | {took * 1e3:.1f} ms | "
          f"{took / data['roots_s']:.0f} | {worst['root']:.2f} m |")

    def sortie():
        x, out = [data["heat_from"]] * 2, []
        for f in data["heat"]:
            x = solve_ivp(rates(data["heat_constants"], f), (0, f["duration"]), x, rtol=1e-7, atol=1e-5).y[:, -1]
            out.append(x)
        return np.array(out)
    took, found = best(sortie, 1)
    ours = np.array([[f["metal"], f["oil"]] for f in data["heat"]])
    worst["heat"] = np.max(np.abs(found - ours))
    per = data["heat_s"] / data["heat_engines"]
    print(f"| temperatures of one engine through the four-engined sortie (RK45, tolerance 1e-7) | {per * 1e3:.2f} ms | {took * 1e3:.0f} ms | "
          f"{took / per:.0f} | {worst['heat']:.4f} K |")
    allowed = {"chart": 2e-3, "boost": 1e-6, "charge": 1e-4, "root": 0.3, "heat": 0.1}
    bad = [name for name, most in allowed.items() if not worst[name] <= most]
    if bad:
        print("differs too much:", ", ".join(f"{name} {worst[name]:.3g}" for name in bad), file=sys.stderr)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
