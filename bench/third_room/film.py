#!/usr/bin/env python3
"""A third filming room: lifters made of lofted surfaces, painted point by point, with knee sleeves, belts, socks, a
collared plate with a bright ring, and lenses that bend. Needs numpy and OpenCV for Python.

Bodies, clothes, plates, light and pixels are its own; how a lifter moves and where the camera stands is taken from the
second room.

    film.py CLIP FOLDER [JOBS]      films one clip of clips.json: FOLDER/CLIP.mp4 and FOLDER/CLIP.truth.json
"""
import json
import math
import os
import sys
from multiprocessing import Pool

import cv2
import numpy as np

HERE = os.path.dirname(os.path.abspath(__file__))
SECOND = os.path.join(HERE, "..", "second_room")
sys.path.insert(0, SECOND)
from film import SLEEVE_END, Camera, Lifter, add, cross, dot, finished, mul, sub, truth_begun, truth_of, unit  # noqa: E402

STEEL = (165, 168, 172)
SIDES = (("right", -1), ("left", 1))


class BentCamera(Camera):
    """Radial distortion: what a straight lens shows at r focal lengths from the middle appears at r (1 + k r²)."""

    def __init__(self, s):
        super().__init__(s)
        self.bend = s["bend"]

    def pixel(self, p):
        u, v, _ = self.project(np.array([p]))
        return [float(u[0]), float(v[0])]

    def project(self, points):
        d = points - np.array(self.place)
        depth = d @ np.array(self.ahead)
        x, y = d @ np.array(self.right) / depth, -(d @ np.array(self.up)) / depth
        q = 1 + self.bend * (x * x + y * y)
        return self.width / 2 + self.focal * x * q, self.height / 2 + self.focal * y * q, depth

    def rays(self):
        u = (np.arange(self.width) + 0.5 - self.width / 2) / self.focal
        v = (np.arange(self.height) + 0.5 - self.height / 2) / self.focal
        u, v = np.meshgrid(u, v)
        x, y = u, v
        for _ in range(6):
            q = 1 + self.bend * (x * x + y * y)
            x, y = u / q, v / q
        return np.array(self.ahead) + x[..., None] * np.array(self.right) - y[..., None] * np.array(self.up)


class Cloud:
    """Points with normals and colours, so dense that they leave no holes."""

    def __init__(self, per_metre):
        self.per_metre = per_metre
        self.points, self.normals, self.colours = [], [], []

    def put(self, points, normals, colours):
        self.points.append(points.reshape(-1, 3))
        self.normals.append(np.broadcast_to(normals, points.shape).reshape(-1, 3))
        self.colours.append(np.broadcast_to(colours, points.shape).reshape(-1, 3))

    def count(self, metres, least=3):
        return max(least, int(metres * self.per_metre))


def weave(shape, amount, seed):
    """Brightness of cloth or skin: smooth noise about 1."""
    coarse = np.random.default_rng(seed).normal(0, 1, (shape[0] // 6 + 2, shape[1] // 6 + 2))
    return 1 + amount * cv2.resize(coarse, (shape[1], shape[0]), interpolation=cv2.INTER_CUBIC)


def loft(cloud, a, b, rings, colour, front=(1, 0, 0), power=2.0, seed=1):
    """A limb from a to b. Rings: (share of the way, radius to the front, to the back, to the side, shift to the front).
    `colour` may depend on the share of the way."""
    a, b, rings = np.array(a), np.array(b), np.array(rings)
    length = np.linalg.norm(b - a)
    along = (b - a) / length
    front = np.array(front, float)
    front = front - along * (front @ along)
    front /= np.linalg.norm(front)
    side = np.cross(along, front)
    rows = cloud.count((rings[-1, 0] - rings[0, 0]) * length, 4)
    columns = cloud.count(2 * math.pi * rings[:, 1:4].max(), 8)
    share = np.linspace(rings[0, 0], rings[-1, 0], rows)
    angle = np.linspace(0, 2 * math.pi, columns, endpoint=False)

    def smooth(column):
        width = max(1, int(rows * 0.06)) | 1
        padded = np.pad(np.interp(share, rings[:, 0], rings[:, column]), width // 2, mode="edge")
        return np.convolve(padded, np.ones(width) / width, "valid")

    to_front, to_back, to_side, shift = (smooth(k) for k in (1, 2, 3, 4))
    cos, sin = np.cos(angle), np.sin(angle)
    reach = np.where(cos[None, :] > 0, to_front[:, None], to_back[:, None])
    x = reach * np.sign(cos) * np.abs(cos) ** (2 / power) + shift[:, None]
    y = to_side[:, None] * np.sign(sin) * np.abs(sin) ** (2 / power)
    points = a + share[:, None, None] * length * along + x[..., None] * front + y[..., None] * side
    across = (cos / np.maximum(reach, 1e-3))[..., None] * front
    normals = across + (sin[None, :] / np.maximum(to_side[:, None], 1e-3))[..., None] * side
    normals /= np.linalg.norm(normals, axis=-1, keepdims=True)
    normals = normals - np.clip(np.gradient(to_side, share * length), -0.8, 0.8)[:, None, None] * along
    normals /= np.linalg.norm(normals, axis=-1, keepdims=True)
    shade = colour(share)[:, None, :] if callable(colour) else np.array(colour)[None, None, :]
    cloud.put(points, normals, shade * weave((rows, columns), 0.06, seed)[..., None])


def ball(cloud, centre, radii, colour, axes=None, amount=0.04, seed=2):
    radii = np.broadcast_to(np.array(radii, float), 3)
    rows = cloud.count(math.pi * radii.max(), 6)
    down = np.linspace(0.01, math.pi - 0.01, rows)[:, None]
    round_ = np.linspace(0, 2 * math.pi, 2 * rows, endpoint=False)[None, :]
    n = np.stack(np.broadcast_arrays(np.sin(down) * np.cos(round_), np.sin(down) * np.sin(round_), np.cos(down)), -1)
    axes = np.eye(3) if axes is None else np.array(axes, float)
    normals = (n / radii) @ axes
    normals /= np.linalg.norm(normals, axis=-1, keepdims=True)
    shade = np.array(colour) * weave((rows, 2 * rows), amount, seed)[..., None]
    cloud.put(np.array(centre) + (n * radii) @ axes, normals, shade)


def disc(cloud, centre, y, inner, outer, colour, facing):
    """A ring square to the bar. Points are set off from ring to ring, or they would line up and leave gaps."""
    finer = 1.6
    for r in np.linspace(inner, outer, cloud.count(finer * (outer - inner))):
        n = cloud.count(finer * 2 * math.pi * r, 8)
        a = np.linspace(0, 2 * math.pi, n, endpoint=False) + 37 * r
        points = np.stack([centre[0] + r * np.cos(a), np.full(n, y), centre[2] + r * np.sin(a)], -1)
        cloud.put(points, np.array([0, facing, 0.0]), np.array(colour))


def tube(cloud, centre, y0, y1, radius, colour):
    a = np.linspace(0, 2 * math.pi, cloud.count(2 * math.pi * radius, 8), endpoint=False)[None, :]
    y = np.linspace(y0, y1, cloud.count(abs(y1 - y0), 2))[:, None]
    x, z = radius * np.cos(a), radius * np.sin(a)
    points = np.stack(np.broadcast_arrays(centre[0] + x, y, centre[2] + z), -1)
    normals = np.broadcast_to(np.stack([np.cos(a), 0 * a, np.sin(a)], -1), points.shape)
    cloud.put(points, normals, np.array(colour))


def slab(cloud, low, high, colour):
    low, high = np.array(low, float), np.array(high, float)
    for axis in range(3):
        p, q = (i for i in range(3) if i != axis)
        u = np.linspace(low[p], high[p], cloud.count(high[p] - low[p], 2))
        v = np.linspace(low[q], high[q], cloud.count(high[q] - low[q], 2))
        u, v = np.meshgrid(u, v)
        for facing, at in ((-1, low[axis]), (1, high[axis])):
            points = np.zeros(u.shape + (3,))
            points[..., p], points[..., q], points[..., axis] = u, v, at
            normal = np.zeros(3)
            normal[axis] = facing
            cloud.put(points, normal, np.array(colour))


def dressed(base, *bands):
    """The colour along a limb: `base`, and over it (from, to, colour) where there is a colour."""

    def colour(share):
        c = np.broadcast_to(np.array(base, float), (len(share), 3)).copy()
        for low, high, band in bands:
            if band is not None:
                c[(share >= low) & (share < high)] = band
        return c

    return colour


def square_to(direction, wish):
    return unit(sub(wish, mul(direction, dot(wish, direction))))


def leg(cloud, g, s, y):
    k, hip, knee, ankle = s["girth"], g["hip"], g["knee"], g["ankle"]
    sleeve, thick = s["sleeve"], 0.006 if s["sleeve"] else 0
    thigh = [(-0.06, 0.052, 0.05, 0.05, 0), (0.1, 0.062, 0.056, 0.058, 0), (0.3, 0.075, 0.064, 0.072, 0.004)]
    thigh += [(0.6, 0.092, 0.076, 0.084, 0.006), (0.9, 0.095, 0.09, 0.092, 0), (1.1, 0.07, 0.09, 0.085, 0)]
    thigh = [(t, *(k * r + thick * (t < 0.2) for r in rs), shift) for t, *rs, shift in thigh]
    front = square_to(unit(sub(hip, knee)), (1, y * 0.1, 0.35))
    loft(cloud, knee, hip, thigh, dressed(s["skin"], (s["hem"], 2, s["suit"]), (-1, 0.27, sleeve)), front, seed=11 + y)
    shin = [(-0.05, 0.034, 0.036, 0.034, 0), (0.15, 0.036, 0.04, 0.037, 0), (0.45, 0.044, 0.062, 0.05, 0)]
    shin += [(0.7, 0.046, 0.068, 0.055, 0), (0.88, 0.05, 0.05, 0.05, 0), (1.06, 0.05, 0.046, 0.048, 0)]
    shin = [(t, *(k * r + thick * (t > 0.8) for r in rs), shift) for t, *rs, shift in shin]
    front = square_to(unit(sub(knee, ankle)), (1, 0, 0))
    loft(cloud, ankle, knee, shin, dressed(s["skin"], (-1, 0.55, s["sock"]), (0.74, 2, sleeve)), front, seed=21 + y)
    ball(cloud, add(knee, mul(front, 0.008)), 0.054 * k + thick, sleeve or s["skin"])
    heel, toe, up = g["heel"], g["toe"], (0, 0, 1)
    upper = [(0, 0.001, 0.001, 0.022, 0.03), (0.04, 0.05, 0.025, 0.03, 0.03), (0.25, 0.055, 0.03, 0.034, 0.032)]
    upper += [(0.5, 0.034, 0.03, 0.042, 0.032), (0.75, 0.026, 0.026, 0.046, 0.028), (0.95, 0.018, 0.02, 0.036, 0.022)]
    loft(cloud, heel, toe, upper + [(1, 0.002, 0.002, 0.02, 0.02)], s["shoe"], up, 2.6, 31 + y)
    sole = [(0, 0.001, 0.001, 0.02, 0.008), (0.03, 0.008, 0.008, 0.03, 0.008), (0.4, 0.008, 0.008, 0.038, 0.008)]
    sole += [(0.9, 0.008, 0.008, 0.04, 0.008), (0.97, 0.007, 0.007, 0.03, 0.009)]
    loft(cloud, heel, toe, sole, s["sole"], up, 4, 32)
    neck = add(add(heel, mul(sub(toe, heel), 0.22)), (0, 0, 0.06))
    rings = [(0, 0.04, 0.045, 0.036, 0), (1, 0.037 * k, 0.04 * k, 0.036 * k, 0)]
    loft(cloud, neck, add(ankle, (0, 0, 0.035)), rings, s["shoe"], seed=33)


def trunk(cloud, p, s):
    k, hip, shoulder, up, front = s["girth"], p["mid_hip"], p["mid_shoulder"], p["up"], p["front"]
    half, wide, belly = s["hip_half"], s["shoulder_half"], s["belly"]
    for y in (-1, 1):
        buttock = add(add(hip, (0, y * half * 0.75, 0)), add(mul(front, -0.045), mul(up, -0.015)))
        ball(cloud, buttock, (0.11 * k, 0.105 * k, 0.115 * k), s["suit"], seed=41)
        ball(cloud, add(hip, (0, y * half, 0)), 0.098 * k, s["suit"], seed=42)
    w, belt = half + 0.08 * k, 0.012 if s["belt"] else 0
    rings = [(-0.12, 0.07 * k, 0.1 * k, w * 0.8, 0), (0, 0.09 * k, 0.12 * k, w, 0)]
    rings += [(0.15, 0.1 * k * belly, 0.105 * k, w * 0.95, 0)]
    rings += [(0.3, 0.105 * k * belly + belt, 0.085 * k + belt, w * 0.88, 0.005)]
    rings += [(0.5, 0.11 * k, 0.095 * k, w * 0.98, 0), (0.75, 0.115 * k, 0.105 * k, wide * 1.02, 0)]
    rings += [(0.92, 0.085 * k, 0.1 * k, wide * 1.02, -0.005), (1.05, 0.05 * k, 0.075 * k, wide * 0.6, -0.01)]
    cloth = dressed(s["shirt"], (-1, 0.62, s["suit"]), (0.2, 0.4, s["belt"]))
    loft(cloud, hip, shoulder, rings + [(1.13, 0.04, 0.05, 0.09, 0)], cloth, front, 2.5, 51)


def head(cloud, p, s):
    shoulder, skin = p["mid_shoulder"], s["skin"]
    neck = unit(add(p["up"], (0.1, 0, 0.45)))
    rings = [(0, 0.065, 0.07, 0.075, 0), (0.5, 0.055, 0.06, 0.058, 0), (1, 0.055, 0.055, 0.055, 0)]
    loft(cloud, shoulder, add(shoulder, mul(neck, 0.2)), rings, skin, seed=52)
    gaze = math.radians(s["gaze"])
    face = unit((math.cos(gaze), 0, -0.35 * math.sin(gaze)))
    axes = [face, (0, 1, 0), unit(cross(face, (0, 1, 0)))]
    centre = add(shoulder, add(mul(neck, 0.23), (0.02, 0, 0)))
    ball(cloud, centre, (0.098, 0.076, 0.118), skin, axes, seed=53)
    ball(cloud, add(centre, add(mul(face, -0.018), (0, 0, 0.02))), (0.1, 0.082, 0.112), s["hair"], axes, 0.2, 54)
    ball(cloud, add(centre, add(mul(face, 0.1), (0, 0, -0.02))), (0.022, 0.014, 0.02), skin, axes)
    for y in (-1, 1):
        ball(cloud, add(centre, (-0.005, y * 0.078, -0.012)), (0.02, 0.01, 0.032), mul(skin, 0.9))
        ball(cloud, add(centre, add(mul(face, 0.083), (0, y * 0.032, 0.012))), (0.012, 0.014, 0.008), (30, 25, 25))


def arm(cloud, g, s):
    k, shoulder, elbow, wrist = s["girth"], g["shoulder"], g["elbow"], g["wrist"]
    ball(cloud, shoulder, 0.066 * k, s["shirt"], seed=61)
    upper = [(-0.05, 0.06 * k, 0.06 * k, 0.06 * k, 0), (0.4, 0.052 * k, 0.05 * k, 0.05 * k, 0)]
    upper += [(1.05, 0.04 * k, 0.04 * k, 0.04 * k, 0)]
    loft(cloud, shoulder, elbow, upper, dressed(s["skin"], (-1, 0.5, s["shirt"])), seed=62)
    fore = [(-0.05, 0.042 * k, 0.042 * k, 0.04 * k, 0), (0.3, 0.044 * k, 0.04 * k, 0.044 * k, 0)]
    loft(cloud, elbow, wrist, fore + [(1, 0.027 * k, 0.027 * k, 0.03 * k, 0)], s["skin"], seed=63)
    ball(cloud, add(wrist, g.get("hand", (0, 0, 0.03))), (0.04, 0.045, 0.045), s["skin"])


def plate(cloud, c, y, inside, radius, thick, colour):
    """One plate whose inner face lies `inside` from the bar's middle: a lip, a recess, a bright ring in it, a hub."""
    colour, face = np.array(colour, float), y * (inside + thick)
    tube(cloud, c, y * inside, face, radius, colour * 0.85)
    disc(cloud, c, y * inside, 0.03, radius, colour * 0.7, -y)
    if radius <= 0.15:
        disc(cloud, c, face, 0.027, radius, colour, y)
        return
    disc(cloud, c, face, radius * 0.88, radius, colour, y)
    disc(cloud, c, face - y * 0.006, radius * 0.3, radius * 0.88, colour * 0.9, y)
    disc(cloud, c, face - y * 0.005, radius * 0.55, radius * 0.6, np.minimum(255, colour * 1.3 + 40), y)
    disc(cloud, c, face, 0.027, radius * 0.3, colour * 0.75, y)


def barbell(cloud, c, s):
    tube(cloud, c, -0.66, 0.66, 0.014, STEEL)
    for y in (-1, 1):
        tube(cloud, c, y * 0.64, y * 0.665, 0.037, STEEL)
        tube(cloud, c, y * 0.655, y * SLEEVE_END, 0.025, STEEL)
        disc(cloud, c, y * SLEEVE_END, 0, 0.025, (190, 190, 190), y)
        disc(cloud, c, y * SLEEVE_END, 0.006, 0.012, (60, 60, 60), y)
        x = 0.667
        for radius, thick, colour in s["plates"]:
            plate(cloud, c, y, x, radius, thick, colour)
            x += thick + 0.001
        tube(cloud, c, y * x, y * (x + 0.04), 0.04, (70, 70, 75))
        disc(cloud, c, y * (x + 0.04), 0.025, 0.04, (90, 90, 95), y)


def lifter_cloud(p, s, per_metre):
    cloud = Cloud(per_metre)
    trunk(cloud, p, s)
    head(cloud, p, s)
    for side, y in SIDES:
        leg(cloud, p[side], s, y)
        arm(cloud, p[side], s)
    barbell(cloud, p["bar"], s)
    return cloud


def rack_cloud(s, per_metre):
    cloud, x = Cloud(per_metre), s["rack_x"]
    for y in (-0.62, 0.62):
        slab(cloud, (x, y - 0.04, 0), (x + 0.08, y + 0.04, 2.0), s["rack"])
        slab(cloud, (x - 0.35, y - 0.04, 0), (x + 0.5, y + 0.04, 0.06), s["rack"])
    return cloud


def room(camera, s):
    """Floor with a platform, and a wall of panels with pictures on it."""
    noise = np.random.default_rng(3).random((512, 512))
    ways, eye = camera.rays(), np.array(camera.place)
    far = 1 if s["side"] == "right" else -1

    def grain(a, b, per_metre):
        return noise[(np.abs(a * per_metre).astype(int) % 512), (np.abs(b * per_metre).astype(int) % 512)]

    with np.errstate(divide="ignore", invalid="ignore"):
        to_floor, to_wall = -eye[2] / ways[..., 2], (far * 2.4 - eye[1]) / ways[..., 1]
    floor = (to_floor > 0) & (to_floor < to_wall)
    place = eye + np.where(floor, to_floor, to_wall)[..., None] * ways
    x, y, z = place[..., 0], place[..., 1], place[..., 2]
    ground = np.array(s["floor"]) * (0.875 + 0.25 * grain(x, y, 160))[..., None]
    boards = np.array(s["platform"]) * (1 + 0.12 * np.sin(60 * y + 3 * grain(20 * x, 90 * y, 1)))[..., None]
    ground = np.where(((np.abs(x - 0.1) < 1.2) & (np.abs(y) < 1.4))[..., None], boards, ground)
    ground = ground * (1 - 0.45 * np.exp(-((x / 0.35) ** 2 + (y / 0.5) ** 2)))[..., None]
    wall = np.array(s["wall"]) * (0.95 + 0.1 * grain(x, z, 40))[..., None]
    wall = np.where((np.abs(x % 1.25 - 0.6) < 0.012)[..., None], wall * 0.8, wall)
    wall = np.where((z < 0.12)[..., None], wall * 0.5, wall)
    for x0, x1, z0, z1, colour in s["panels"]:
        wall = np.where(((x > x0) & (x < x1) & (z > z0) & (z < z1))[..., None], np.array(colour, float), wall)
    return np.where(floor[..., None], ground, wall)


def painted(camera, s, clouds):
    points, normals, colours = (
        np.concatenate([part for cloud in clouds for part in getattr(cloud, kind)])
        for kind in ("points", "normals", "colours")
    )
    u, v, depth = camera.project(points)
    u, v = np.floor(u).astype(int), np.floor(v).astype(int)
    seen = ((points - np.array(camera.place)) * normals).sum(1) < 0
    seen &= (u >= 0) & (u < camera.width) & (v >= 0) & (v < camera.height) & (depth > 0.1)
    near = -1 if s["side"] == "right" else 1
    lamp = np.array(unit(s["lamp"])) * np.array([1, near, 1])
    light = s["ambient"] + 0.6 * np.clip(normals[seen] @ lamp, 0, 1) + 0.12 * np.clip(normals[seen][:, 2], 0, 1)
    shown = np.clip(colours[seen] * light[:, None] * s["bright"], 0, 255)
    picture = (room(camera, s) * s["bright"]).reshape(-1, 3)
    nearest_last = np.argsort(-depth[seen], kind="stable")
    picture[(v[seen] * camera.width + u[seen])[nearest_last]] = shown[nearest_last]
    return picture.reshape(camera.height, camera.width, 3).astype(np.float32)


def shoot(job):
    """One frame, whole or not at all. A frame that is there already is not painted again."""
    i, s, file = job
    if os.path.exists(file):
        return
    camera, t = BentCamera(s).at(i / s["fps"]), i / s["fps"]
    per_metre = 1.45 * camera.focal / s["distance"]
    picture = painted(camera, s, [rack_cloud(s, 0.9 * per_metre), lifter_cloud(Lifter(s).pose(t), s, per_metre)])
    picture = cv2.GaussianBlur(picture, (0, 0), 0.6)
    picture += np.random.default_rng(i).normal(0, s["noise"], picture.shape)
    part = file[:-4] + ".part.png"
    cv2.imwrite(part, np.clip(picture, 0, 255).astype(np.uint8)[..., ::-1])
    os.rename(part, file)


def film(name, folder, jobs):
    with open(os.path.join(SECOND, "clips.json")) as file:
        usual = json.load(file)["every clip"]
    with open(os.path.join(HERE, "clips.json")) as file:
        specs = json.load(file)
    s = {**usual, **specs["every clip"], **specs["clips"][name]}
    lifter, camera = Lifter(s), BentCamera(s)
    frames = os.path.join(folder, name)
    os.makedirs(frames, exist_ok=True)
    truth = truth_begun(lifter, s)
    todo = []
    for i in range(int(lifter.end * s["fps"])):
        t = i / s["fps"]
        truth["frames"].append(truth_of(t, lifter.pose(t), camera.at(t), s))
        todo.append((i, s, os.path.join(frames, "f%04d.png" % i)))
    with Pool(jobs) as pool:
        pool.map(shoot, todo, chunksize=4)
    finished(name, folder, truth, ["-crf", str(s["crf"])])


if __name__ == "__main__":
    film(sys.argv[1], sys.argv[2], int(sys.argv[3]) if len(sys.argv) > 3 else 1)
