#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""draw.py FIRST COUNT FOLDER: draws pairs of films by seed, pair-SEED-a.json and pair-SEED-b.json (simulator specs).

Even seeds: one athlete then and now, filmed from nearly the same place; what they do differs, by faults and a depth of
known size. Odd seeds: one and the same set, filmed from two places; whatever is called more or less there is wrong.
Lifts go round by seed. Bodies, kit, rooms and cameras are drawn as ../tails/draw.py draws them, from the side."""
import copy
import importlib.util
import json
import pathlib
import random
import sys

TAILS = pathlib.Path(__file__).resolve().parent.parent / "tails" / "draw.py"
_module = importlib.util.spec_from_file_location("tails_draw", TAILS)
tails = importlib.util.module_from_spec(_module)
_module.loader.exec_module(tails)

GROUPS = ["squat", "pull", "press"]


def another_place(camera, r, far):
    """The camera moved a little, as from one week to the next, or (far) to where somebody else would stand."""
    turn = r.uniform(5, 14) * r.choice([-1, 1]) if far else r.uniform(-2.5, 2.5)
    camera["yaw_deg"] = round(max(-20, min(20, camera["yaw_deg"] + turn)), 1)
    camera["distance_m"] = round(camera["distance_m"] * r.uniform(0.8, 1.25 if far else 1.05), 2)
    camera["height_m"] = round(camera["height_m"] + r.uniform(-0.3, 0.3) * (1 if far else 0.2), 2)
    camera["along_m"] = round(camera["along_m"] + r.uniform(-0.1, 0.1), 2)
    camera["roll_deg"] = round(r.gauss(0, 1.2), 2)


def pair_of(seed):
    r = random.Random(f"pair {seed}")
    group = GROUPS[seed // 2 % 3]
    lift = {"squat": "squat", "pull": "deadlift", "press": "bench"}[group]
    a = tails.spec_of(group, 5000 + seed)
    a["set"] |= {"reps": 2, "walk_out": False}
    if group == "pull":
        a["set"]["rest_s"] = max(0.6, a["set"]["rest_s"])
    a["camera"]["shake_deg"] = 0
    b = copy.deepcopy(a)
    b["seed"] = a["seed"] + 1
    same_set = seed % 2 == 1
    another_place(b["camera"], r, far=same_set)
    if not same_set:
        b["set"]["faults"] = tails.faults_of(lift, r)
        b["set"]["ascent_s"] = round(r.uniform(0.8, 2.6), 2)
        if lift == "squat":
            b["set"]["depth_m"] = round(a["set"]["depth_m"] + r.uniform(-0.07, 0.07), 3)
            b["set"]["shin_bottom_deg"] = round(a["set"]["shin_bottom_deg"] + r.uniform(-8, 8), 1)
    return a, b


def main():
    first, count, folder = int(sys.argv[1]), int(sys.argv[2]), pathlib.Path(sys.argv[3])
    for seed in range(first, first + count):
        for name, spec in zip("ab", pair_of(seed)):
            (folder / f"pair-{seed}-{name}.json").write_text(json.dumps(spec, indent=1) + "\n")


if __name__ == "__main__":
    main()
