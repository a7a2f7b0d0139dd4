#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""draw.py GROUP FIRST COUNT FOLDER: draws films by seed over wide ranges, one simulator spec each, named GROUP-SEED.json.

Groups: squat, pull, press (from the side, up to 20 degrees off), racked-squat (front squats from there), turned-squat,
turned-pull, turned-press (25 to 50 degrees off), front (squats and pulls from the front and the rear), end (presses from
the ends of the bench), overhead (presses overhead from the side), overhead-front. A seed gives the same film for ever, so that a film that went wrong can be made again; what is reported comes from seeds nobody has looked at."""
import json
import math
import pathlib
import random
import sys


def colour(r, low=20, high=235):
    return [r.randint(low, high) for _ in range(3)]


def grey(r, low, high):
    tone = r.randint(low, high)
    return [max(0, min(255, tone + r.randint(-10, 10))) for _ in range(3)]


def faults_of(lift, r):
    some = {}

    def perhaps(name, low, high, share=0.35):
        if r.random() < share:
            some[name] = round(r.uniform(low, high), 4)

    if lift == "squat":
        perhaps("knee_slide_back_m", 0.01, 0.07)
        perhaps("trunk_pitch_deg", 3, 16)
        perhaps("bar_drift_m", 0.02, 0.08)
        perhaps("heel_lift_m", 0.01, 0.04, 0.2)
        perhaps("knee_cave_m", 0.02, 0.07)
    elif lift == "deadlift":
        perhaps("bar_drift_m", 0.02, 0.08)
        perhaps("hip_rise_m", 0.02, 0.09)
        perhaps("roll_m", 0.02, 0.09, 0.2)
        perhaps("wander_m", 0.02, 0.06, 0.2)
    elif lift == "overhead":
        perhaps("leg_drive_m", 0.03, 0.1)
        perhaps("trunk_pitch_deg", 4, 18)
        perhaps("bar_drift_m", 0.03, 0.1)
        perhaps("elbow_ahead_m", -0.06, 0.06, 0.6)
        perhaps("bar_tilt_deg", 1.5, 6)
    else:
        perhaps("seat_lift_m", 0.02, 0.07, 0.25)
        perhaps("elbow_ahead_m", 0.03, 0.1)
        perhaps("reach_m", 0.02, 0.06, 0.25)
        perhaps("sink_m", 0.005, 0.03, 0.4)
        perhaps("bar_tilt_deg", 1.5, 6)
        perhaps("hands_left_m", 0.02, 0.05, 0.2)
        perhaps("left_flare", 0.1, 0.4, 0.2)
    return some


def set_of(lift, r):
    out = {"reps": r.choice([1, 2, 2, 3, 3]), "ascent_s": round(r.uniform(0.8, 2.6), 2),
           "rest_s": round(r.uniform(0.6, 1.8), 2), "sticking": round(r.uniform(0.1, 0.7), 2),
           "fade_ascent": round(r.uniform(0, 0.15), 3), "walk_out": False, "faults": faults_of(lift, r)}
    if lift == "squat":
        out |= {"variant": r.choice(["low-bar", "high-bar"]), "depth_m": round(r.uniform(-0.09, 0.09), 3),
                "shin_bottom_deg": round(r.uniform(20, 42), 1), "descent_s": round(r.uniform(0.8, 2.4), 2),
                "pause_s": round(r.choice([0, 0, 0, r.uniform(0.4, 1.5)]), 2), "walk_out": r.random() < 0.3}
    elif lift == "deadlift":
        out |= {"variant": r.choice(["conventional", "conventional", "sumo"]), "descent_s": round(r.uniform(0.7, 1.6), 2),
                "hold_s": round(r.uniform(0.3, 1.4), 2), "approach_s": round(r.choice([0, r.uniform(1.2, 2.5)]), 2),
                "slack_s": round(r.uniform(0, 0.6), 2), "shaft_bend_m": round(r.uniform(0, 0.012), 4)}
        if r.random() < 0.15:
            out["rest_s"] = 0
    elif lift == "overhead":
        out |= {"variant": "strict", "descent_s": round(r.uniform(0.7, 1.6), 2),
                "hold_s": round(r.uniform(0.3, 1.2), 2), "walk_out": r.random() < 0.4}
        if r.random() < 0.15:
            out["missed_at"] = round(r.uniform(0.3, 0.75), 2)
    else:
        out |= {"variant": r.choice(["paused", "paused", "touch-and-go"]), "descent_s": round(r.uniform(0.8, 2.2), 2),
                "pause_s": 0, "depth_m": 0}
        if out["variant"] == "paused":
            out["pause_s"] = round(r.uniform(0.2, 1.4), 2)
        else:
            out["faults"].pop("sink_m", None)  # nothing sinks that does not rest
    return out


def spec_of(group, seed):
    r = random.Random(f"{group} {seed}")
    lift = {"squat": "squat", "pull": "deadlift", "press": "bench"}.get(group.split("-")[-1])
    if group.startswith("overhead"):
        lift = "overhead"
    if group == "front":
        lift = r.choice(["squat", "deadlift"])
    if group == "end":
        lift = "bench"
    turned = group.startswith("turned")
    sumo_wide = r.uniform(0.7, 0.95)
    the_set = set_of(lift, r)
    if group == "racked-squat":
        the_set["variant"] = "front"
    stance = sumo_wide if the_set["variant"] == "sumo" else r.uniform(0.28, 0.5)
    camera = {"width": 640, "height": 360, "rate_hz": r.choice([24, 25, 30, 30, 30, 60]),
              "distance_m": round(r.uniform(2.8, 5.5), 2), "height_m": round(r.uniform(0.35, 1.5), 2),
              "along_m": round(r.uniform(-0.25, 0.25), 2), "roll_deg": round(r.gauss(0, 1.2), 2),
              "hfov_deg": round(r.uniform(48, 74), 1), "noise": round(r.uniform(1, 7), 1), "quality": r.randint(18, 31),
              "shake_deg": round(r.choice([0, 0, r.uniform(0.1, 0.7)]), 2),
              "exposure_share": round(r.uniform(0.1, 0.6), 2), "side": r.choice(["left", "right"])}
    if r.random() < 0.25:
        camera |= {"width": 406, "height": 720, "hfov_deg": round(r.uniform(36, 48), 1),
                   "distance_m": round(r.uniform(3.4, 5.0), 2)}
    if lift == "overhead":  # the bar is in the picture overhead, too
        camera["distance_m"] = round(r.uniform(3.6, 5.5), 2)
        camera["height_m"] = round(r.uniform(0.8, 1.6), 2)
    # The lens looks at the lifter: who holds the phone high tilts it.
    middle = {"bench": 0.6, "overhead": 1.15}.get(lift, 0.85)
    down_deg = math.degrees(math.atan2(camera["height_m"] - middle, camera["distance_m"]))
    camera["pitch_deg"] = round(down_deg * r.uniform(0.5, 1), 2)
    if turned:
        camera["yaw_deg"] = round(r.choice([-1, 1]) * r.uniform(25, 50), 1)
    elif group in ("front", "overhead-front"):
        facing = r.choice([90, 90, -90])
        camera["yaw_deg"] = round(facing + r.uniform(-8, 8), 1)
    elif group == "end":
        camera["yaw_deg"] = round(r.choice([90, -90]) + r.uniform(-7, 7), 1)
        camera["height_m"] = round(r.uniform(0.9, 1.6), 2)
        camera["pitch_deg"] = round(math.degrees(math.atan2(camera["height_m"] - 0.7, camera["distance_m"])), 2)
    else:
        camera["yaw_deg"] = round(r.uniform(-20, 20), 1)
    wall = grey(r, 60, 220)
    plate = r.choice([grey(r, 15, 60), grey(r, 15, 60), colour(r), [max(0, c - 12) for c in wall]])
    return {"seed": 100000 + seed, "samples": 1, "lift": lift, "title": f"{group} {seed}",
            "sleeve_end_m": round(r.uniform(0.9, 1.06), 3), "plate_face_m": round(r.uniform(0.66, 0.8), 3),
            "plates_each_side": r.randint(1, 4),
            "lifter": {"stature_m": round(r.uniform(1.52, 1.95), 3), "thigh_factor": round(r.uniform(0.93, 1.08), 3),
                       "trunk_factor": round(r.uniform(0.93, 1.08), 3), "girth_factor": round(r.uniform(0.8, 1.35), 2),
                       "stance_m": round(stance, 2), "toe_out_deg": round(r.uniform(8, 38), 1),
                       "grip_m": round(r.uniform(0.3, 0.42) if lift == "deadlift" else r.uniform(0.32, 0.42), 2)},
            "set": the_set,
            "look": {"skin": r.choice([[205, 160, 130], [236, 200, 176], [140, 96, 70], [84, 58, 44], [180, 130, 96]]),
                     "shirt": colour(r), "shorts": colour(r, 15, 160), "shoes": colour(r), "socks": colour(r),
                     "hair": grey(r, 20, 120), "plate": plate, "wall": wall, "floor": grey(r, 35, 150),
                     "light": round(r.uniform(0.35, 1.2), 2), "cloth_pattern": round(r.uniform(0, 1), 2),
                     "safeties": lift == "squat" and r.random() < 0.3, "spotter": lift == "bench" and r.random() < 0.3,
                     "stored_plates": r.random() < 0.6},
            "camera": camera}


def main():
    group, first, count, folder = sys.argv[1], int(sys.argv[2]), int(sys.argv[3]), pathlib.Path(sys.argv[4])
    for seed in range(first, first + count):
        (folder / f"{group}-{seed}.json").write_text(json.dumps(spec_of(group, seed), indent=1) + "\n")


if __name__ == "__main__":
    main()
