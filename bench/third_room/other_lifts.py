#!/usr/bin/env python3
"""The third room's pulls, presses and squats from the front: the same painted bodies, with motion of their own.

    other_lifts.py CLIP FOLDER [JOBS]      films one clip of other_lifts.json: FOLDER/CLIP.mp4 and FOLDER/CLIP.truth.json

World: metres, x forward (where the toes point), y to the lifter's left, z up. A lifter who presses lies with the head
towards -x. The camera's azimuth 0 looks at the near side squarely, 90 from the front, -90 from behind.
"""
import importlib.util
import json
import math
import os
import sys
from multiprocessing import Pool

import cv2
import numpy as np

HERE = os.path.dirname(os.path.abspath(__file__))
# Both rooms' programs are called film.py, so this one is loaded under a name of its own.
_spec = importlib.util.spec_from_file_location("third_film", os.path.join(HERE, "film.py"))
third = importlib.util.module_from_spec(_spec)
sys.modules["third_film"] = third
_spec.loader.exec_module(third)
SIDES, SLEEVE_END, BentCamera, Cloud = third.SIDES, third.SLEEVE_END, third.BentCamera, third.Cloud
ball, barbell, loft, slab, unit = third.ball, third.barbell, third.loft, third.slab, third.unit
JOINTS = ("toe", "heel", "ankle", "knee", "hip", "shoulder", "elbow", "wrist")


def vec(*xs):
    return np.array(xs, float)


def ease(u):
    u = min(1.0, max(0.0, u))
    return u * u * u * (10 - 15 * u + 6 * u * u)


def at(keys, t):
    """A value that eases from key to key: [(t, value), ...]."""
    if t <= keys[0][0]:
        return keys[0][1]
    for (t0, a), (t1, b) in zip(keys, keys[1:]):
        if t < t1:
            return a + (b - a) * ease((t - t0) / (t1 - t0))
    return keys[-1][1]


def lean_of(a, b):
    """Lean of b over a from vertical, forward positive, degrees, in the sagittal plane."""
    d = np.subtract(b, a)
    return math.degrees(math.atan2(d[0], d[2]))


class Body:
    """Lengths of a lifter as shares of the stature, and what every lift does alike."""

    def __init__(self, s):
        self.s, h = s, s["stature"]
        self.shank, self.thigh, self.trunk = s["shank"] * h, s["thigh"] * h, s["trunk"] * h
        self.foot, self.ankle_height = 0.152 * h, 0.039 * h
        self.upper, self.fore = 0.172 * h, 0.157 * h

    def standing_leg(self, y, shin, thigh, out):
        """Leg of side y (-1 right): lean of shin and thigh in degrees, `out` how far the knee goes out to the side."""
        s, flare = self.s, math.radians(self.s["flare"])
        ahead = vec(math.cos(flare), y * math.sin(flare), 0)
        ankle = vec(0, y * s["stance"] / 2, self.ankle_height)
        floor = vec(0, ankle[1], 0)
        a = math.radians(out)
        lean = math.radians(shin)
        knee = ankle + self.shank * vec(math.sin(lean) * math.cos(a), y * math.sin(a), math.cos(lean) * math.cos(a))
        hip_y = y * s["hip_half"]
        flat = math.sqrt(max(1e-4, self.thigh**2 - (hip_y - knee[1]) ** 2))
        back = math.radians(thigh)
        hip = vec(knee[0] - flat * math.sin(back), hip_y, knee[2] + flat * math.cos(back))
        return dict(
            toe=tuple(floor + 0.75 * self.foot * ahead),
            heel=tuple(floor - 0.25 * self.foot * ahead),
            ankle=tuple(ankle),
            knee=tuple(knee),
            hip=tuple(hip),
            ahead=tuple(ahead),
            heel_lift=0,
        )

    def elbow(self, shoulder, wrist, way):
        """Elbow of fitted lengths, off the line from shoulder to wrist towards `way`."""
        shoulder, wrist = vec(*shoulder), vec(*wrist)
        d = wrist - shoulder
        reach = min(np.linalg.norm(d), self.upper + self.fore - 0.002)
        along = (self.upper**2 - self.fore**2 + reach**2) / (2 * reach)
        off = math.sqrt(max(0, self.upper**2 - along**2))
        n = d / np.linalg.norm(d)
        way = vec(*way) - n * (vec(*way) @ n)
        return tuple(shoulder + n * along + off * way / np.linalg.norm(way))


class Puller(Body):
    """The hands hang from the shoulders; the trunk leans as far as straight arms need it to reach the bar."""

    def __init__(self, s):
        super().__init__(s)
        self.rise, self.sunk, t = [], [], s["stand"] + 1.4
        self.reps = []
        for r in s["reps"]:
            start = t + r.get("set", 1.0)
            up = start + r["up"]
            down = up + r.get("hold", 0.8)
            end = down + r["down"]
            top = r.get("top", 1.0)
            if "hitch" in r:
                at_knee, half = r["hitch"], start + 0.6 * r["up"]
                self.rise += [(start, 0), (half, at_knee), (half + 0.35, at_knee - 0.03), (up, top)]
            else:
                self.rise += [(start, 0), (up, top)]
            self.rise += [(down, top), (end, 0)]
            # Hips that are set too low come up before the plates leave.
            self.sunk += [(start - 0.45, 1), (start, 0), (end, 0), (end + 0.3, 1)]
            self.reps.append(dict(liftoff=start, lockout=up, lowering=down, end=end, missed=top < 0.8))
            t = end
        self.let_go = t + 0.4
        self.end = self.let_go + 1.5

    def pose(self, t):
        s = self.s
        gripped = at([(s["stand"], 0), (s["stand"] + 1.2, 1), (self.let_go, 1), (self.let_go + 1.1, 0)], t)
        q = at(self.rise, t)
        w = 1 - q if gripped >= 1 else gripped
        # Knees open over the first part of the way, hips over the whole of it.
        open_knees = 1 - (1 - q) ** s["knee_lead"] if gripped >= 1 else 1 - gripped
        shin = s["shin0"] + (s["shin"] - s["shin0"]) * (1 - open_knees)
        thigh = 3 + (s["thigh_angle"] - 3) * (1 - open_knees) + s.get("sink", 0) * at(self.sunk, t) * gripped
        out = s["knee_out"] + (s["knee_out_top"] - s["knee_out"]) * open_knees
        p = {side: self.standing_leg(y, shin, thigh, out) for side, y in SIDES}
        hip = (vec(*p["left"]["hip"]) + vec(*p["right"]["hip"])) / 2
        middle_of_foot = (p["right"]["toe"][0] + p["right"]["heel"][0]) / 2
        radius = s["plates"][0][0]
        across = s["grip"] - s["shoulder_half"]
        arm_down = math.sqrt((self.upper + self.fore) ** 2 - across**2) + 0.07
        tall = self.standing_height() - arm_down
        bar = vec(middle_of_foot + s["bar_off"] + s["drift"] * math.sin(math.pi * q), 0, radius + q * (tall - radius))
        if q > 0.75:  # the bar comes to the thighs
            bar[0] += (q - 0.75) / 0.25 * s["to_thighs"]

        def shoulder_of(lean):
            return hip + self.trunk * vec(math.sin(lean), 0, math.cos(lean))

        low, high = -0.15, 2.0
        for _ in range(50):
            lean = (low + high) / 2
            far = math.hypot(shoulder_of(lean)[0] - bar[0], shoulder_of(lean)[2] - bar[2])
            low, high = (lean, high) if shoulder_of(lean)[2] > bar[2] and far > arm_down else (low, lean)
        if gripped < 1:
            lean *= gripped
        up, front = vec(math.sin(lean), 0, math.cos(lean)), vec(math.cos(lean), 0, -math.sin(lean))
        shoulder = hip + self.trunk * up
        for side, y in SIDES:
            here = shoulder + vec(0, y * s["shoulder_half"], 0)
            held = bar + vec(0, y * s["grip"], 0.07)
            hanging = here + vec(0.02, y * 0.05, -(self.upper + self.fore - 0.01))
            wrist = hanging + (held - hanging) * gripped
            p[side].update(shoulder=tuple(here), wrist=tuple(wrist), hand=(0, 0, -0.05))
            p[side]["elbow"] = self.elbow(here, wrist, (-1, 0.3 * y, 0))
        return dict(p, mid_hip=tuple(hip), mid_shoulder=tuple(shoulder), up=tuple(up), front=tuple(front), bar=tuple(bar),
                    lean=lean, w=w)

    def standing_height(self):
        hip = self.standing_leg(1, self.s["shin0"], 3, self.s["knee_out_top"])["hip"]
        return hip[2] + self.trunk


class Presser(Body):
    """Lies on a pad with the head towards -x; the bar goes from over the shoulders to the chest and back."""

    def __init__(self, s):
        super().__init__(s)
        t0 = s["stand"]
        self.hooks = [(t0, 0), (t0 + 0.9, 1)]
        self.down, t, self.reps = [], t0 + 1.6, []
        self.tilt = [(0, 0)]  # degrees, the left hand higher
        for r in s["reps"]:
            touch = t + r["down"]
            press = touch + r.get("pause", 0.03)
            up = press + r["up"]
            self.tilt += [(press, 0), (press + 0.4 * r["up"], r.get("tilt", 0)), (up, 0)]
            self.down += [(t, 0), (touch, 1), (press, 1), (up, 0)]
            self.reps.append(dict(start=t, touch=touch, press=press, lockout=up))
            t = up + r.get("rest", 0.7)
        self.hooks += [(t + 0.2, 1), (t + 1.0, 0)]
        self.end = t + 1.6

    def pose(self, t):
        s = self.s
        d, off_hooks = at(self.down, t), at(self.hooks, t)
        pad, arch = s["pad"], math.radians(s["arch"])
        up = vec(-math.cos(arch), 0, -math.sin(arch))  # the hips lie higher than the shoulder joints: an arched back
        front = vec(-math.sin(arch), 0, math.cos(arch))
        shoulder = vec(0, 0, pad + 0.10 * s["girth"])
        hip = shoulder - self.trunk * up
        p = {}
        for side, y in SIDES:
            knee_way = vec(math.cos(math.radians(s["thigh_down"])), y * s["knees_wide"], -math.sin(math.radians(s["thigh_down"])))
            here = hip + vec(0, y * s["hip_half"], 0)
            knee = here + self.thigh * knee_way / np.linalg.norm(knee_way)
            lean = math.radians(s["shin"])
            drop = knee[2] - self.ankle_height
            ankle = vec(knee[0] - drop * math.tan(lean), knee[1], self.ankle_height)
            flare = math.radians(s["flare"])
            ahead = vec(math.cos(flare), y * math.sin(flare), 0)
            floor = vec(ankle[0], ankle[1], 0)
            p[side] = dict(
                toe=tuple(floor + 0.75 * self.foot * ahead),
                heel=tuple(floor - 0.25 * self.foot * ahead),
                ankle=tuple(ankle),
                knee=tuple(knee),
                hip=tuple(here),
                ahead=tuple(ahead),
                heel_lift=0,
            )
        across = s["grip"] - s["shoulder_half"]
        arm_up = math.sqrt((self.upper + self.fore - 0.004) ** 2 - across**2) + 0.05
        chest = pad + s["chest"] * s["girth"]
        top = shoulder + vec(s["over"], 0, arm_up)
        touch = vec(shoulder[0] + s["touch"], 0, chest + 0.014)
        rack = top + vec(-s["hooks_back"], 0, -0.05)
        bar = rack + (top - rack) * off_hooks
        bar = bar + (touch - top) * d + vec(s["curve"] * math.sin(math.pi * d), 0, 0)
        roll = math.radians(at(self.tilt, t))
        bar[1] = -s["hands_left"]
        for side, y in SIDES:
            here = shoulder + vec(0, y * s["shoulder_half"], 0)
            out = y * s["grip"] + s["hands_left"]  # of the hand from the middle of the bar
            wrist = bar + vec(0.0, out * math.cos(roll), out * math.sin(roll) - 0.05)
            tuck = math.radians(s["tuck"] + y * s["left_tucks_more"] / 2)
            way = vec(math.sin(tuck), y * math.cos(tuck), -0.6)
            p[side].update(shoulder=tuple(here), wrist=tuple(wrist), hand=(0, 0, 0.03))
            p[side]["elbow"] = self.elbow(here, wrist, way)
        return dict(p, mid_hip=tuple(hip), mid_shoulder=tuple(shoulder), up=tuple(up), front=tuple(front), bar=tuple(bar),
                    lean=math.atan2(up[0], up[2]), neck=(-0.98, 0, 0.1), face=(0, 0, 1), roll=roll)


class Squatter(third.Lifter):
    """The second room's squat, with knees that may cave on the way up and hips that may shift to a side."""

    def pose(self, t):
        q, way, rep = self.depth(t)
        cave = rep.get("cave", 0) * math.sin(math.pi * min(1, max(0, 1.25 * (1 - q)))) if way > 0 else 0
        self.inward = cave
        p = super().pose(t)
        for side, y in SIDES:
            p[side]["hand"] = (0, 0, 0.03)
        return p

    def leg(self, y, shin, knee_forward, thigh, heel_lift):
        kept = self.s["splay"]
        self.s["splay"] = kept - self.inward / max(0.2, knee_forward)
        try:
            return super().leg(y, shin, knee_forward, thigh, heel_lift)
        finally:
            self.s["splay"] = kept


LIFTS = {"deadlift": Puller, "bench": Presser, "squat": Squatter}


def head(cloud, p, s):
    """Head of a lifter in any posture, along `neck`, looking along `face`."""
    if "neck" not in p:
        return third.head(cloud, p, s)
    shoulder, skin, neck, face = vec(*p["mid_shoulder"]), s["skin"], vec(*p["neck"]), p["face"]
    rings = [(0, 0.065, 0.07, 0.075, 0), (0.5, 0.055, 0.06, 0.058, 0), (1, 0.055, 0.055, 0.055, 0)]
    loft(cloud, shoulder, shoulder + 0.2 * neck, rings, skin, front=face, seed=52)
    axes = [unit(face), (0, 1, 0), unit(tuple(neck))]
    centre = shoulder + 0.25 * neck
    ball(cloud, centre, (0.098, 0.076, 0.118), skin, axes, seed=53)
    ball(cloud, centre + vec(0, 0, -0.02) - 0.015 * vec(*face), (0.1, 0.082, 0.112), s["hair"], axes, 0.2, 54)
    ball(cloud, centre + 0.1 * vec(*face) - 0.02 * neck, (0.022, 0.014, 0.02), skin, axes)
    return None


def lifter_cloud(p, s, per_metre):
    cloud = Cloud(per_metre)
    third.trunk(cloud, p, s)
    head(cloud, p, s)
    for side, y in SIDES:
        third.leg(cloud, p[side], s, y)
        third.arm(cloud, p[side], s)
    rod = Cloud(per_metre)
    barbell(rod, (0, 0, 0), s)
    turn = along_the_bar(p)
    for points, normals, colours in zip(rod.points, rod.normals, rod.colours):
        cloud.put(points @ turn.T + vec(*p["bar"]), normals @ turn.T, colours)
    return cloud


def along_the_bar(p):
    """Rotation about the fore-aft axis by which the bar is off level."""
    c, s = math.cos(p.get("roll", 0)), math.sin(p.get("roll", 0))
    return np.array([(1, 0, 0), (0, c, -s), (0, s, c)])


def furniture(s, per_metre):
    cloud = Cloud(per_metre)
    if s["lift"] == "bench":
        pad = s["pad"]
        slab(cloud, (-0.42, -0.14, pad - 0.08), (0.86, 0.14, pad), s["pad_colour"])
        for x in (-0.3, 0.7):
            slab(cloud, (x, -0.1, 0), (x + 0.06, 0.1, pad - 0.08), s["rack"])
        hooks = s["posts"]
        for y in (-0.5, 0.5):
            slab(cloud, (hooks - 0.09, y - 0.035, 0), (hooks - 0.02, y + 0.035, s["post_height"]), s["rack"])
            slab(cloud, (hooks - 0.09, y - 0.035, 0), (hooks + 0.4, y + 0.035, 0.06), s["rack"])
    elif s["lift"] == "squat":
        x = s["rack_x"]
        for y in (-0.62, 0.62):
            slab(cloud, (x, y - 0.04, 0), (x + 0.08, y + 0.04, 2.0), s["rack"])
            slab(cloud, (x - 0.35, y - 0.04, 0), (x + 0.5, y + 0.04, 0.06), s["rack"])
    else:
        x = s.get("rack_x", -1.3)
        for y in (-0.62, 0.62):
            slab(cloud, (x, y - 0.04, 0), (x + 0.08, y + 0.04, 2.1), s["rack"])
    return cloud


def room(camera, s):
    """Floor and the wall the camera looks at, whichever of the four it is."""
    if abs(s["azimuth"]) < 45:
        return third.room(camera, s)
    turned = dict(s, side="right")
    ways, eye = camera.rays(), np.array(camera.place)
    sign = 1 if s["azimuth"] > 0 else -1  # from the front the wall is behind the lifter

    class Turned:
        place = (sign * eye[1], -sign * eye[0], eye[2])

        @staticmethod
        def rays():
            return np.stack([sign * ways[..., 1], -sign * ways[..., 0], ways[..., 2]], -1)

    return third.room(Turned, turned)


def painted(camera, s, clouds):
    kept = third.room
    third.room, away = (lambda c, t: away), room(camera, s)
    try:
        return third.painted(camera, s, clouds)
    finally:
        third.room = kept


def shoot(job):
    i, s, file = job
    if os.path.exists(file):
        return
    t = i / s["fps"]
    camera = BentCamera(s).at(t)
    per_metre = 1.45 * camera.focal / s["distance"]
    pose = LIFTS[s["lift"]](s).pose(t)
    picture = painted(camera, s, [furniture(s, 0.9 * per_metre), lifter_cloud(pose, s, per_metre)])
    picture = cv2.GaussianBlur(picture, (0, 0), 0.6)
    picture += np.random.default_rng(i).normal(0, s["noise"], picture.shape)
    part = file[:-4] + ".part.png"
    cv2.imwrite(part, np.clip(picture, 0, 255).astype(np.uint8)[..., ::-1])
    os.rename(part, file)


def angles_of(g, lean):
    shin, thigh = lean_of(g["ankle"], g["knee"]), lean_of(g["knee"], g["hip"])

    def included(a, b, c):
        u, v = vec(*a) - vec(*b), vec(*c) - vec(*b)
        u[1] = v[1] = 0
        return math.degrees(math.acos(np.clip(u @ v / np.linalg.norm(u) / np.linalg.norm(v), -1, 1)))

    return dict(
        shin=shin,
        thigh=thigh,
        torso=math.degrees(lean),
        knee=included(g["ankle"], g["knee"], g["hip"]),
        hip=included(g["knee"], g["hip"], g["shoulder"]),
        elbow=included(g["shoulder"], g["elbow"], g["wrist"]),
    )


def truth_of(t, p, camera, s):
    """All points of both sides under the athlete's own sides, and the near side's under plain names."""
    points, near = {}, s["side"]
    for side, y in SIDES:
        for joint in JOINTS:
            points["%s_%s" % (side, joint)] = p[side][joint]
            if side == near:
                points[joint] = p[side][joint]
        end = tuple(np.array(p["bar"]) + along_the_bar(p) @ vec(0, y * SLEEVE_END, 0))
        points["bar_" + side] = end
        if side == near:
            points["bar"] = end
    return dict(
        t=t,
        points={k: camera.pixel(v) for k, v in points.items()},
        px_per_m={k: camera.scale(v) for k, v in points.items()},
        place={k: [round(float(x), 4) for x in v] for k, v in points.items()},
        **angles_of(p[near], p["lean"]),
    )


def film(name, folder, jobs):
    with open(os.path.join(HERE, "..", "second_room", "clips.json")) as file:
        usual = json.load(file)["every clip"]
    with open(os.path.join(HERE, "clips.json")) as file:
        usual.update(json.load(file)["every clip"])
    with open(os.path.join(HERE, "other_lifts.json")) as file:
        specs = json.load(file)
    s = {**usual, **specs["every clip"], **specs[specs["clips"][name]["lift"]], **specs["clips"][name]}
    lifter, camera = LIFTS[s["lift"]](s), BentCamera(s)
    frames = os.path.join(folder, name)
    os.makedirs(frames, exist_ok=True)
    truth = dict(fps=s["fps"], size=s["size"], lift=s["lift"], variant=s["variant"], near=s["side"], frames=[], reps=[])
    if s["lift"] == "squat":
        truth["reps"] = third.truth_begun(lifter, s)["reps"]
    else:
        truth["reps"] = lifter.reps
    todo = []
    for i in range(int(lifter.end * s["fps"])):
        t = i / s["fps"]
        truth["frames"].append(truth_of(t, lifter.pose(t), camera.at(t), s))
        todo.append((i, s, os.path.join(frames, "f%04d.png" % i)))
    if os.environ.get("ONLY"):
        todo = [todo[int(k)] for k in os.environ["ONLY"].split(",")]
    with Pool(jobs) as pool:
        pool.map(shoot, todo, chunksize=4)
    if not os.environ.get("ONLY"):
        third.finished(name, folder, truth, ["-crf", str(s["crf"])])


if __name__ == "__main__":
    film(sys.argv[1], sys.argv[2], int(sys.argv[3]) if len(sys.argv) > 3 else 1)
