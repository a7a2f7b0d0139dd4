#!/usr/bin/env python3
"""Holds jib's analyses of other_lifts.py's films against their truth; prints tables in Markdown.

    hold_lifts_against.py JIB FOLDER CLIP...      FOLDER holds CLIP.mp4 and CLIP.truth.json
"""
import json
import os
import subprocess
import sys

ANGLES = {"shin": "shin_deg", "thigh": "thigh_deg", "torso": "torso_deg", "knee": "knee_deg", "hip": "hip_deg",
          "elbow": "elbow_deg"}
EVENTS = ("start", "touch", "press", "liftoff", "bottom", "lockout", "lowering", "end")


def analysed(jib, folder, clip, truth):
    """The analysis; one that is newer than film and program is used again."""
    out = os.path.join(folder, clip + ".json")
    film = os.path.join(folder, clip + ".mp4")
    if os.path.exists(out) and os.path.getmtime(out) > max(os.path.getmtime(film), os.path.getmtime(jib)):
        with open(out) as file:
            return json.load(file), ""
    command = [jib, "analyze", film, "--quiet", "--lift", truth["lift"], "--variant", truth["variant"], "--out", out]
    done = subprocess.run(command, capture_output=True, text=True)
    if done.returncode not in (0, 1):
        return None, done.stderr.strip()
    with open(out) as file:
        return json.load(file), ""


def in_reps(t, truth):
    """Only while a rep is under way and a moment around it is the body in a posture that is judged."""
    first = min(min(v for v in r.values() if not isinstance(v, bool)) for r in truth["reps"])
    last = max(r.get("end", r.get("lockout", 0)) for r in truth["reps"])
    return first - 0.5 <= t <= last + 0.3


def points_of(analysis, truth):
    errors = {}
    for frame in analysis["frames"]:
        i = round(frame["t"] * truth["fps"])
        if i >= len(truth["frames"]) or not in_reps(frame["t"], truth):
            continue
        true = truth["frames"][i]
        for point, seen in frame["points"].items():
            if not seen or point not in true["points"]:
                continue
            name = point.replace("left_", "").replace("right_", "")
            name = "bar" if name.startswith("bar") else name
            for axis in (0, 1):
                px = seen[axis] - true["points"][point][axis]
                errors.setdefault(name, []).append((100 * px / true["px_per_m"][point], abs(px) <= 1.64 * seen[2]))
        for angle, key in ANGLES.items():
            seen = frame["angles"].get(key)
            if seen is not None and angle in true and true[angle] is not None:
                errors.setdefault(angle + ", °", []).append((seen - true[angle], None))
    return errors


def events_of(analysis, truth):
    """Errors in frames, of reps that lie over each other."""
    errors = {}
    for true in truth["reps"]:
        end = true.get("lockout", true.get("end"))
        near = [r for r in analysis["reps"] if r.get("lockout_t") and abs(r["lockout_t"] - end) < 1]
        if not near:
            continue
        for event in EVENTS:
            said = near[0].get(event + "_t")
            if event in true and said is not None:
                errors.setdefault(event, []).append((said - true[event]) * truth["fps"])
    return errors


def at(values, share):
    values = sorted(abs(v) for v in values)
    return values[min(len(values) - 1, int(share * len(values)))]


def main(jib, folder, clips):
    print("| clip | view said | reps | points, cm: 90 % (share within 1.64 σ) | angles, °: 90 % | events, frames: worst |")
    print("| --- | --- | --- | --- | --- | --- |")
    verdicts = []
    for clip in clips:
        with open(os.path.join(folder, clip + ".truth.json")) as file:
            truth = json.load(file)
        analysis, why = analysed(jib, folder, clip, truth)
        if not analysis:
            print("| %s | – | – | %s | | |" % (clip, why))
            continue
        errors = points_of(analysis, truth)
        points = ", ".join(
            "%s %.1f (%.0f %%)" % (k, at([e for e, _ in v], 0.9), 100 * sum(w for _, w in v) / len(v))
            for k, v in errors.items() if "°" not in k
        )
        angles = ", ".join("%s %.0f" % (k[:-3], at([e for e, _ in v], 0.9)) for k, v in errors.items() if "°" in k)
        events = ", ".join("%s %+.1f" % (k, max(v, key=abs)) for k, v in events_of(analysis, truth).items())
        missed = sum(1 for r in truth["reps"] if r.get("missed"))
        reps = "%d of %d" % (len(analysis["reps"]), len(truth["reps"]) - missed)
        if missed:
            reps += ", %d of %d missed" % (len(analysis.get("misses", [])), missed)
        print("| %s | %s | %s | %s | %s | %s |" % (clip, analysis["clip"]["view"], reps, points, angles, events))
        settled = [f for f in analysis["findings"] if f["verdict"] != "too_close"]
        open_ = [f["id"] for f in analysis["findings"] if f["verdict"] == "too_close"]
        found = [f["id"] for f in settled if f["verdict"] == "yes"]
        verdicts.append((clip, len(settled), ", ".join(found) or "–", ", ".join(open_) or "–"))
    print("\n| clip | settled | found | left open |\n| --- | --- | --- | --- |")
    for row in verdicts:
        print("| %s | %d | %s | %s |" % row)


if __name__ == "__main__":
    main(sys.argv[1], sys.argv[2], sys.argv[3:])
