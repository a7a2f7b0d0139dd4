#!/usr/bin/env python3
"""Holds jib's analyses of the second room's films against their truth; prints tables in Markdown.

    hold_against.py JIB FOLDER CLIP...      FOLDER holds CLIP.mp4 and CLIP.truth.json
"""
import json
import math
import os
import subprocess
import sys

PLACED = ("toe", "heel", "ankle", "knee", "hip", "shoulder")
POINTS = ("bar",) + PLACED
ANGLES = {"shin": "shin_deg", "thigh": "thigh_deg", "torso": "torso_deg", "knee": "knee_deg", "hip": "hip_deg"}


def analysed(jib, folder, clip, truth, placed):
    """The analysis with nothing placed, or with the truth's points on one standing frame."""
    out = os.path.join(folder, "%s.%s.json" % (clip, "placed" if placed else "free"))
    command = [jib, "analyze", os.path.join(folder, clip + ".mp4"), "--quiet", "--variant", "high-bar", "--out", out]
    if placed:
        frame = truth["frames"][20]
        points = os.path.join(folder, clip + ".points.json")
        with open(points, "w") as file:
            json.dump({"t": frame["t"], "points": {k: frame["points"][k] for k in PLACED}}, file)
        command += ["--points", points]
    subprocess.run(command, check=True)
    with open(out) as file:
        return json.load(file)


def errors_of(analysis, truth):
    """Lists of (error, within 1.64 sigma or None): centimetres along each axis, degrees."""
    errors = {}
    for frame in analysis["frames"]:
        i = round(frame["t"] * truth["fps"])
        if i >= len(truth["frames"]):
            continue
        true = truth["frames"][i]
        for point in POINTS:
            seen = frame["points"].get(point)
            if seen:
                for axis in (0, 1):
                    px = seen[axis] - true["points"][point][axis]
                    errors.setdefault(point, []).append((100 * px / true["px_per_m"][point], abs(px) <= 1.64 * seen[2]))
        for angle, key in ANGLES.items():
            seen = frame["angles"].get(key)
            if seen is not None:
                errors.setdefault(angle + ", °", []).append((seen - true[angle], None))
    return errors


def row(name, errors):
    size = sorted(abs(e) for e, _ in errors)
    inside = [within for _, within in errors if within is not None]
    at = lambda share: size[min(len(size) - 1, int(share * len(size)))]
    share = "%.0f %%" % (100 * sum(inside) / len(inside)) if inside else ""
    bias = sum(e for e, _ in errors) / len(errors)
    return "| %s | %d | %+.2f | %.2f | %.2f | %.2f | %s |" % (name, len(size), bias, at(0.5), at(0.9), at(0.95), share)


def main(jib, folder, clips):
    for placed in (False, True):
        together, cameras, reps = {}, [], [0, 0]
        for clip in clips:
            with open(os.path.join(folder, clip + ".truth.json")) as file:
                truth = json.load(file)
            analysis = analysed(jib, folder, clip, truth, placed)
            found = errors_of(analysis, truth)
            for name, errors in found.items():
                together.setdefault(name, []).extend(errors)
            reps[0] += len(analysis["reps"]) == len(truth["reps"])
            reps[1] += 1
            by_clip = {name: found.get(name, []) for name in ("bar", "knee", "hip", "torso, °")}
            worst = [sorted(abs(e) for e, _ in v)[int(0.9 * len(v))] if v else math.nan for v in by_clip.values()]
            cameras.append((clip, analysis["camera"], worst))
        print("\n## %s\n" % ("One placed frame" if placed else "Nothing placed"))
        print("%d clips; the number of reps right in %d.\n" % (len(clips), reps[0]))
        print("| cm, ° | n | bias | 50 % | 90 % | 95 % | within 1.64 σ |\n| --- | --- | --- | --- | --- | --- | --- |")
        for name in list(POINTS) + [a + ", °" for a in ANGLES]:
            if name in together:
                print(row(name, together[name]))
        print("\n| clip | yaw, pitch, roll said | bar, knee, hip, trunk: 90 % |\n| --- | --- | --- |")
        for clip, camera, worst in cameras:
            said = ", ".join("%.1f" % camera[k] for k in ("yaw_deg", "pitch_deg", "roll_deg"))
            print("| %s | %s | %s |" % (clip, said, ", ".join("%.1f" % w for w in worst)))


if __name__ == "__main__":
    main(sys.argv[1], sys.argv[2], sys.argv[3:])
