#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Figures of docs/validation.md from the curves that amber-validation wrote. Usage: plot_validation.py CURVES FOLDER"""
import csv
import sys
from collections import defaultdict

import matplotlib

matplotlib.use("svg")
matplotlib.rcParams.update({"svg.hashsalt": "amber", "svg.fonttype": "none", "font.size": 9, "axes.grid": True,
                            "grid.alpha": 0.3, "axes.prop_cycle": matplotlib.cycler(color=["#1f1b16"])})
import matplotlib.pyplot as plt

STYLES = ["-", "--", "-.", ":"]


def rows(path):
    with open(path, newline="") as f:
        return list(csv.DictReader(f))


def save(figure, path):
    figure.tight_layout()
    figure.savefig(path, metadata={"Date": None, "Creator": None})


def trace(source, target, name, engine, lanes, title):
    """One engine's trace in lanes, one below the other: (columns, label), each column once a line style."""
    data = rows(f"{source}/{name}.csv")
    x = [float(r["time_s"]) for r in data]
    figure, axes = plt.subplots(len(lanes), 1, figsize=(7, 1.25 * len(lanes)), sharex=True)
    for ax, (columns, label) in zip(axes, lanes):
        for style, column in zip(STYLES, columns):
            key = column if column in data[0] else f"{engine}.{column}"
            ax.plot(x, [float(r[key]) if r[key] else float("nan") for r in data], style, lw=1.2, label=column)
        ax.set_ylabel(label, rotation=0, ha="right", va="center", fontsize=8)
        ax.margins(x=0)
    axes[0].set_title(title, fontsize=9, loc="left")
    axes[-1].set_xlabel("s")
    figure.align_ylabels(axes)
    save(figure, f"{target}/{name}.svg")


def main():
    source, target = sys.argv[1:3]
    lines = defaultdict(list)
    for r in rows(f"{source}/power-height.csv"):
        lines[r["type"], r["gear"]].append((float(r["height_m"]) / 1000, float(r["power_kW"])))
    figure, axes = plt.subplots(figsize=(7, 3.6))
    kinds = {t: STYLES[i % 4] for i, t in enumerate(dict.fromkeys(t for t, _ in lines))}
    for (kind, gear), points in lines.items():
        x, y = zip(*points)
        axes.plot(x, y, kinds[kind], lw=1.3)
        axes.annotate(f"{kind}, {gear}" if gear != "none" else kind, (x[-1], y[-1]), fontsize=7, va="center")
    axes.set(xlabel="pressure altitude, km", ylabel="kW", xlim=(0, 13.5), ylim=(0, None))
    save(figure, f"{target}/power-height.svg")

    data = rows(f"{source}/gagg-ferrar.csv")
    x = [float(r["height_m"]) / 1000 for r in data]
    rule = [float(r["gagg_ferrar"]) for r in data]
    figure, axes = plt.subplots(figsize=(7, 3))
    axes.fill_between(x, [r - .03 for r in rule], [r + .03 for r in rule], color="#b56a00", alpha=.2, lw=0)
    axes.plot(x, rule, "--", lw=1, label="σ − (1 − σ)/7.55")
    axes.plot(x, [float(r["model"]) for r in data], lw=1.5, label="model")
    axes.legend(frameon=False)
    axes.set(xlabel="pressure altitude, km", ylabel="power over that at sea level")
    save(figure, f"{target}/gagg-ferrar.svg")

    lines = defaultdict(list)
    for r in rows(f"{source}/warm-up.csv"):
        lines[float(r["oat_C"])].append((float(r["minutes"]), float(r["heads_C"]), float(r["oil_C"])))
    figure, axes = plt.subplots(figsize=(7, 3))
    for style, (oat, points) in zip(STYLES, lines.items()):
        x, heads, oil = zip(*points)
        axes.plot(x, heads, style, lw=1.6, label=f"heads from {oat:.0f} °C")
        axes.plot(x, oil, style, lw=.8)
    axes.legend(frameon=False, fontsize=8)
    axes.annotate("oil, thin lines", (11, 30), fontsize=8)
    axes.set(xlabel="minutes at 1,000 rpm", ylabel="°C")
    save(figure, f"{target}/warm-up.svg")

    trace(source, target, "frosty-start", "3",
          [(["rpm"], "rpm"), (["fuel_flow_l_h"], "fuel, l/h"), (["head_C", "oil_C"], "heads —\noil - -\n°C"),
           (["oil_pressure_kPa"], "oil, kPa")],
          "A start in frost: dry, then primed and waited for")
    trace(source, target, "past-its-rating", "1",
          [(["manifold_pressure_kPa"], "boost, kPa"), (["head_C"], "heads, °C"), (["oil_C"], "oil, °C"),
           (["oil_pressure_kPa"], "oil, kPa"), (["power_kW"], "kW")],
          "Past its rating for eight minutes")
    trace(source, target, "failure-after-take-off", "1",
          [(["ias_m_s"], "IAS, m/s"), (["height_m"], "height, m"), (["rpm"], "rpm, port"), (["yaw"], "yaw"),
           (["power_kW"], "kW, port")],
          "The port engine fails after take-off, feathered eight seconds later")


if __name__ == "__main__":
    main()
