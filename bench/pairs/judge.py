#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""judge.py FOLDER SEED...: holds each pair's comparison (pair-SEED.cmp.json, of `jib compare`) against the exact truth
beside its films: differences within 1.64 sigma, verdicts that are right, open and wrong, events within a frame. Prints a
table for docs (Markdown), and on standard error what was off."""
import collections
import json
import pathlib
import sys


def measures_of(truth, rep):
    return truth["measures"] if rep == "set" else (
        truth["reps"][rep - 1]["measures"] if rep - 1 < len(truth["reps"]) else {})


def number(entry):
    return entry.get("value") if isinstance(entry, dict) else None


def true_time(truth, rep, event):
    reps = truth["reps"]
    return reps[rep - 1].get(event + "_t") if rep - 1 < len(reps) else None


def judge(folder, seed, rows):
    read = lambda name: json.loads((folder / name).read_text())
    a, b = read(f"pair-{seed}-a.truth.json"), read(f"pair-{seed}-b.truth.json")
    told = read(f"pair-{seed}.cmp.json")
    same_set = seed % 2 == 1
    row = rows[(a["spec"].get("lift", "squat"), "the same set from two places" if same_set else "then and now")]
    row["pairs"] += 1
    row[told["alike"]["label"]] += 1
    for m in told["measures"]:
        if m["difference"] is None or m["id"] in ("best_rep", "worst_rep"):
            row["left out"] += 1
            continue
        then, now = (number(measures_of(t, m["rep"]).get(m["id"])) for t in (a, b))
        if then is None or now is None:
            continue
        truly = now - then
        row["differences"] += 1
        off = abs(m["difference"] - truly) / max(1e-9, m["sigma"])
        row["within"] += off < 1.64
        says = {"more": 1, "less": -1}.get(m["verdict"], 0)
        # A difference that is there in truth by more than what any film resolves, and one that is not.
        wrong = says != 0 and (same_set or says * truly <= 0)
        row["wrong" if wrong else "right" if says else "open"] += 1
        if wrong or off > 3:
            print(f"pair {seed}: {m['id']} rep {m['rep']}: {m['verdict']}, {m['difference']:.4g} ± {m['sigma']:.2g}, "
                  f"is {truly:.4g}", file=sys.stderr)
    frame = {t: 1 / d["spec"]["camera"]["rate_hz"] for t, d in (("a", a), ("b", b))}
    for e in told["events"]:
        for t, d in (("a", a), ("b", b)):
            truly = true_time(d, e[f"rep_{t}"], e["name"])
            if truly is None or e[f"{t}_t"] is None:
                continue
            row["events"] += 1
            row["one frame"] += abs(e[f"{t}_t"] - truly) <= frame[t] + 1e-6
            row["three frames"] += abs(e[f"{t}_t"] - truly) <= 3 * frame[t] + 1e-6


def main():
    folder = pathlib.Path(sys.argv[1])
    rows = collections.defaultdict(collections.Counter)
    for seed in map(int, sys.argv[2:]):
        if (folder / f"pair-{seed}.cmp.json").exists():
            judge(folder, seed, rows)
    print("| lift | pairs | alike: like, with care, unlike | differences told | within 1.64 σ | more or less: right, wrong "
          "| no change seen | events within 1, 3 frames |")
    print("| --- | --- | --- | --- | --- | --- | --- | --- |")
    for (lift, kind), r in sorted(rows.items()):
        share = lambda of, all_: f"{100 * r[of] / r[all_]:.0f} %" if r[all_] else "-"
        print(f"| {lift}, {kind} | {r['pairs']} | {r['like']}, {r['with_care']}, {r['unlike']} | {r['differences']} | "
              f"{share('within', 'differences')} | {r['right']}, {r['wrong']} | {r['open']} | "
              f"{share('one frame', 'events')}, {share('three frames', 'events')} |")


if __name__ == "__main__":
    main()
