"""Endless small pictures of a page on a desk, with the page's mask, to train the page network on.

Deliberately not the camera simulator of demo/: that one scores the result and must stay unseen. Here everything is
drawn flat and fast and varied far beyond what is plausible (domain randomisation, Tobin et al., IROS 2017), so that what
is learnt is "a sheet lying on something", not one simulator's desk.
"""
import json
import math
import sys

import cv2
import numpy as np

LONG, SHORT = 256, 192
OVER = 2  # drawn this much larger, then averaged down

Array = np.ndarray


def smooth_noise(rng, h: int, w: int, cell_y: float, cell_x: float) -> Array:
    """Value noise in 0..1 whose cells are cell_y by cell_x pixels."""
    grid = rng.random((max(2, int(h / cell_y) + 2), max(2, int(w / cell_x) + 2)), dtype=np.float32)
    return cv2.resize(grid, (w, h), interpolation=cv2.INTER_CUBIC)


def colour(rng, low=20, high=245, grey=0.4) -> Array:
    base = rng.uniform(low, high)
    tint = rng.normal(0, 30 * (rng.random() > grey) + 4, 3)
    return np.clip(base + tint, 5, 250).astype(np.float32)


def texture(rng, size: int) -> Array:
    """A square of desk, size x size x 3, float 0..255."""
    kind = rng.choice(['plain', 'noise', 'wood', 'checks', 'dots', 'tiles', 'patches', 'pale', 'dark', 'weave'])
    a, b = colour(rng), colour(rng)
    if kind == 'pale':
        a = colour(rng, 175, 240, 0.6) * np.float32(1)
        b = a * np.float32(rng.uniform(0.92, 1.02))
    if kind == 'dark':
        a = colour(rng, 10, 70)
        b = a * np.float32(rng.uniform(0.6, 1.5))
    y, x = np.mgrid[0:size, 0:size].astype(np.float32)
    if kind in ('plain', 'pale', 'dark'):
        t = smooth_noise(rng, size, size, size / rng.uniform(2, 6), size / rng.uniform(2, 6))
        out = a + (b - a) * np.float32(rng.uniform(0.0, 0.4)) * t[..., None]
    elif kind == 'noise':
        t = sum(smooth_noise(rng, size, size, c, c) / (i + 1) for i, c in enumerate(rng.uniform(2, 60, 3)))
        out = a + (b - a) * t[..., None] * 0.6
    elif kind == 'wood':
        long, thin = rng.uniform(60, 200), rng.uniform(1.5, 7)
        t = 0.6 * smooth_noise(rng, size, size, thin, long) + 0.4 * smooth_noise(rng, size, size, thin * 4, long * 2)
        plank = rng.uniform(40, 140)
        steps = smooth_noise(rng, 1, int(size / plank) + 3, 1, 1)[0]
        t = t + 0.5 * np.repeat(steps, int(plank) + 1)[:size, None][: size]
        seam = (np.mod(y, plank) < rng.uniform(0.5, 2.5)) * rng.uniform(0, 0.6)
        brown = np.array([rng.uniform(50, 210), 0, 0], np.float32)
        brown[1] = brown[0] * rng.uniform(0.6, 0.85)
        brown[2] = brown[1] * rng.uniform(0.5, 0.85)
        out = brown * (0.6 + 0.5 * t[..., None]) * (1 - seam[..., None])
    elif kind in ('checks', 'weave'):
        pitch = rng.uniform(4, 50)
        duty = rng.uniform(-0.6, 0.6)
        c = (np.sin(x * 2 * math.pi / pitch) > duty).astype(np.float32) + (np.sin(y * 2 * math.pi / pitch) > duty) * (kind == 'checks' or rng.random() < 0.4)
        out = a + (b - a) * c[..., None] * 0.5
    elif kind == 'dots':
        pitch = rng.uniform(8, 60)
        r = rng.uniform(0.02, 0.18)
        d = (np.mod(x / pitch, 1) - 0.5) ** 2 + (np.mod(y / pitch, 1) - 0.5) ** 2 < r
        out = a + (b - a) * d[..., None]
    elif kind == 'tiles':
        pitch = rng.uniform(30, 160)
        line = ((np.mod(x, pitch) < rng.uniform(1, 4)) | (np.mod(y, pitch * rng.uniform(0.6, 1.6)) < rng.uniform(1, 4)))
        t = smooth_noise(rng, size, size, pitch, pitch)
        out = a * (0.85 + 0.3 * t[..., None]) * (1 - 0.4 * line[..., None])
    else:
        out = np.empty((size, size, 3), np.float32)
        out[:] = a
        for _ in range(rng.integers(4, 24)):
            c = tuple(float(v) for v in colour(rng))
            p = rng.uniform(0, size, 2)
            if rng.random() < 0.5:
                box = cv2.boxPoints((tuple(map(float, p)), tuple(map(float, rng.uniform(5, 6 + size / 3, 2))), float(rng.uniform(0, 180))))
                cv2.fillConvexPoly(out, np.int32(box), c)
            else:
                cv2.ellipse(out, tuple(map(int, p)), tuple(map(int, rng.uniform(3, 4 + size / 6, 2))), float(rng.uniform(0, 180)), 0, 360, c, -1)
    if kind != 'patches' and rng.random() < 0.7:
        out = out * (1 + rng.uniform(0.01, 0.14) * (smooth_noise(rng, size, size, rng.uniform(1, 4), rng.uniform(1, 4)) - 0.5))[..., None]
    return np.clip(out, 0, 255).astype(np.float32)


def ink(rng) -> tuple:
    c = rng.choice([0, 1, 2, 3, 4, 5], p=[0.45, 0.2, 0.08, 0.05, 0.17, 0.05])
    return [(30, 30, 34), (32, 48, 150), (170, 30, 40), (40, 120, 60), (110, 110, 115), tuple(colour(rng))][c]


def sheet(rng, w: int, h: int, aged=True) -> Array:
    """A flat page, w x h, RGB float."""
    shade = rng.choice(['white', 'cream', 'grey', 'tint', 'old', 'any'], p=[0.5, 0.2, 0.1, 0.1, 0.06, 0.04])
    base = {
        'white': np.array([246, 246, 244]), 'cream': np.array([248, 240, 220]), 'grey': np.array([222, 222, 220]),
        'tint': 228 + rng.uniform(-30, 22, 3), 'old': np.array([222, 196, 150]), 'any': colour(rng),
    }[shade] * rng.uniform(0.93, 1.02)
    page = np.empty((h, w, 3), np.float32)
    page[:] = base
    margin = rng.uniform(0.02, 0.16) * w
    kinds = rng.random(12)
    if kinds[0] < 0.3:  # ruled or squared
        pitch = rng.uniform(6, 22)
        tone = base * rng.uniform(0.6, 0.93) + rng.uniform(-10, 18, 3) * np.array([-1, 0, 1])
        for y in np.arange(rng.uniform(4, 60), h, pitch):
            cv2.line(page, (0, int(y)), (w, int(y)), tuple(map(float, tone)), 1)
        if rng.random() < 0.4:
            for x in np.arange(pitch / 2, w, pitch):
                cv2.line(page, (int(x), 0), (int(x), h), tuple(map(float, tone)), 1)
        if rng.random() < 0.4:
            x = int(rng.uniform(0.08, 0.2) * w)
            cv2.line(page, (x, 0), (x, h), (210, 90, 90), 1)
    if kinds[1] < 0.12:  # banner
        t = int(rng.uniform(0.04, 0.25) * h)
        y0 = 0 if rng.random() < 0.6 else int(rng.uniform(0, h - t))
        x0 = 0 if rng.random() < 0.6 else int(margin)
        cv2.rectangle(page, (x0, y0), (w - x0, y0 + t), tuple(map(float, colour(rng))), -1)
    if kinds[2] < 0.14:  # frame or table
        m = rng.uniform(0.02, 0.12)
        x0, y0, x1, y1 = int(m * w), int(rng.uniform(0.02, 0.5) * h), int((1 - m) * w), int(rng.uniform(0.6, 0.98) * h)
        c = tuple(map(float, colour(rng, 20, 140)))
        cv2.rectangle(page, (x0, y0), (x1, y1), c, int(rng.integers(1, 4)))
        for y in np.linspace(y0, y1, rng.integers(1, 14)):
            cv2.line(page, (x0, int(y)), (x1, int(y)), c, 1)
        for x in np.linspace(x0, x1, rng.integers(1, 6)):
            cv2.line(page, (int(x), y0), (int(x), y1), c, 1)
    if kinds[3] < 0.3:  # figures and pictures
        for _ in range(rng.integers(1, 4)):
            bw, bh = int(rng.uniform(0.1, 0.7) * w), int(rng.uniform(0.06, 0.45) * h)
            x0, y0 = int(rng.uniform(0, w - bw)), int(rng.uniform(0, h - bh))
            if rng.random() < 0.5 and bw > 4 and bh > 4:
                t = texture(rng, max(bw, bh))[:bh, :bw]
                page[y0:y0 + bh, x0:x0 + bw] = t
            else:
                c = tuple(map(float, ink(rng)))
                cv2.ellipse(page, (x0 + bw // 2, y0 + bh // 2), (bw // 2, bh // 2), 0, 0, 360, c, int(rng.choice([1, 2, -1])))
    if kinds[4] < 0.85:  # writing or print
        columns = 2 if rng.random() < 0.12 else 1
        pitch = rng.uniform(5, 20)
        thick = max(1, int(pitch * rng.uniform(0.15, 0.5)))
        c = tuple(map(float, ink(rng)))
        fade = rng.uniform(0.35, 1)
        tone = tuple(float(base[i] * (1 - fade) + c[i] * fade) for i in range(3))
        y_end = h * (rng.uniform(0.3, 1) if rng.random() < 0.4 else 0.96)
        scribble = rng.random() < 0.5
        for k in range(columns):
            x_low = margin + k * (w / columns - margin / 2)
            x_high = margin + (k + 1) * (w - 2 * margin) / columns - (columns - 1) * 5
            y = margin * rng.uniform(0.3, 1.5) + pitch
            while y < y_end:
                if rng.random() < 0.1:
                    y += pitch
                    continue
                x = x_low + (pitch * 2 if rng.random() < 0.1 else 0)
                stop = x_high if rng.random() < 0.75 else rng.uniform(x_low, x_high)
                while x < stop:
                    length = rng.uniform(1, 5) * pitch * 0.5
                    if scribble:
                        xs = np.arange(x, min(x + length, stop), max(1.2, pitch * 0.16))
                        if len(xs) > 1:
                            ys = y + rng.normal(0, pitch * 0.2, len(xs))
                            cv2.polylines(page, [np.int32(np.stack([xs, ys], 1))], False, tone, 1, cv2.LINE_AA)
                    else:
                        cv2.line(page, (int(x), int(y)), (int(min(x + length, stop)), int(y)), tone, thick)
                    x += length + pitch * 0.3
                y += pitch
    if kinds[5] < 0.1:  # big dark drawing
        n = rng.integers(3, 9)
        pts = np.int32(rng.uniform(0.15, 0.85, (n, 2)) * [w, h])
        cv2.polylines(page, [pts], bool(rng.random() < 0.5), tuple(map(float, ink(rng))), int(rng.integers(2, 9)))
    if aged and kinds[6] < 0.1:  # crease
        a, b = rng.uniform(0, 1, 2)
        n = rng.uniform(0, math.pi)
        y, x = np.mgrid[0:h, 0:w].astype(np.float32)
        d = (x - a * w) * math.cos(n) + (y - b * h) * math.sin(n)
        page *= (1 - rng.uniform(-0.12, 0.15) * (d > 0) - 0.15 * np.exp(-(d / 1.5) ** 2))[..., None]
    return page


def random_pose(rng, w_px: int, h_px: int):
    """Homography from the unit page square to the picture, and its width over height."""
    aspect = float(rng.choice([0.707, 0.707, 0.773, 1.414, 1.29, rng.uniform(0.45, 2.1), 0.63]))
    tilt = math.radians(45) * rng.random() ** 1.3
    azimuth = rng.uniform(0, 2 * math.pi)
    heading = rng.normal(0, 0.14) + (rng.integers(0, 4) * math.pi / 2 if rng.random() < 0.4 else 0)
    if rng.random() < 0.15:
        heading = rng.uniform(0, 2 * math.pi)
    f = rng.uniform(0.55, 1.1)
    ch, sh = math.cos(heading), math.sin(heading)
    pw, ph = aspect, 1.0
    ground = np.array([[pw * ch, -ph * sh, -0.5 * (pw * ch - ph * sh)], [pw * sh, ph * ch, -0.5 * (pw * sh + ph * ch)], [0, 0, 1]])
    az = np.array([[math.cos(azimuth), -math.sin(azimuth)], [math.sin(azimuth), math.cos(azimuth)]])
    tilted = np.array([[1, 0], [0, math.cos(tilt)]])
    lin = az @ tilted @ az.T
    depth = math.sin(tilt) * (np.array([0, 1]) @ az.T)
    fill = rng.uniform(0.4, 1.15) if rng.random() < 0.25 else rng.uniform(0.66, 1.02)
    # distance at which the page fills its share
    reach_x = pw * abs(ch) + ph * abs(sh)
    reach_y = pw * abs(sh) + ph * abs(ch)
    fp = f * max(w_px, h_px)
    z = fp * max(reach_x / (w_px * fill), reach_y / (h_px * fill)) * (1 + 0.2 * math.sin(tilt))
    shift = rng.normal(0, 0.05, 2) * np.array([w_px, h_px])
    if rng.random() < 0.14:
        shift += rng.choice([-1, 0, 1], 2) * rng.uniform(0.05, 0.25, 2) * np.array([w_px, h_px])
    m = np.zeros((3, 3))
    m[:2, :2] = lin * fp / z
    m[2, :2] = -depth / z
    m[2, 2] = 1
    move = np.array([[1, 0, w_px / 2 + shift[0]], [0, 1, h_px / 2 + shift[1]], [0, 0, 1]])
    return move @ m @ ground, move @ m, aspect


def warp(image: Array, h_inv: Array, gx, gy, units) -> Array:
    """Samples image (units of the plane per image size) at the picture's pixels."""
    d = h_inv[2, 0] * gx + h_inv[2, 1] * gy + h_inv[2, 2]
    x = (h_inv[0, 0] * gx + h_inv[0, 1] * gy + h_inv[0, 2]) / d
    y = (h_inv[1, 0] * gx + h_inv[1, 1] * gy + h_inv[1, 2]) / d
    return cv2.remap(image, (x * units[0] + units[2]).astype(np.float32), (y * units[1] + units[3]).astype(np.float32), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)


def page_coordinates(rng, hom: Array, gx, gy):
    """Where on the page (0..1) each pixel looks, with a bow."""
    inv = np.linalg.inv(hom)
    d = inv[2, 0] * gx + inv[2, 1] * gy + inv[2, 2]
    u = (inv[0, 0] * gx + inv[0, 1] * gy + inv[0, 2]) / d
    v = (inv[1, 0] * gx + inv[1, 1] * gy + inv[1, 2]) / d
    behind = d * np.sign(inv[2] @ np.array([hom[0, 2] / hom[2, 2] + 0, hom[1, 2] / hom[2, 2], 1])) <= 0
    if rng.random() < 0.5:
        def side(t):
            b, s = rng.normal(0, 0.03), rng.normal(0, 0.02)
            return b * 4 * t * (1 - t) + s * (t ** 2 - t) * (2 * t - 1) * 4
        swap = rng.random() < 0.5
        p, q = (u, v) if swap else (v, u)
        t = np.clip(q, -0.2, 1.2)
        low, high = side(t), side(t)
        if rng.random() < 0.6:
            high = low * rng.uniform(0.5, 1.1)
        p = (p - low) / (1 + high - low)
        if swap:
            u = p
        else:
            v = p
    return np.where(behind, -9, u).astype(np.float32), np.where(behind, -9, v).astype(np.float32)


def paste(canvas: Array, alpha: Array, paint: Array) -> None:
    canvas += alpha[..., None] * (paint - canvas)


def shadow_of(rng, mask: Array, strength=None) -> Array:
    """A contact shadow beside a mask: multiplies the ground."""
    blur = rng.uniform(1, 14)
    dx, dy = rng.normal(0, 3, 2)
    moved = cv2.warpAffine(mask, np.float32([[1, 0, dx], [0, 1, dy]]), mask.shape[::-1])
    return 1 - (strength if strength is not None else rng.uniform(0, 0.5)) * cv2.GaussianBlur(moved, (0, 0), blur)


def clutter(rng, canvas: Array, count: int, keep_off: Array | None) -> None:
    h, w = canvas.shape[:2]
    for _ in range(count):
        shape = np.zeros((h, w), np.float32)
        p = rng.uniform(-0.05, 1.05, 2) * [w, h]
        kind = rng.choice(['mug', 'pen', 'book', 'keys', 'cable'])
        angle = float(rng.uniform(0, 360))
        if kind == 'mug':
            r = rng.uniform(0.05, 0.16) * w
            cv2.circle(shape, tuple(map(int, p)), int(r), 1, -1, cv2.LINE_AA)
        elif kind == 'pen':
            box = cv2.boxPoints((tuple(map(float, p)), (float(rng.uniform(0.15, 0.5) * w), float(rng.uniform(0.008, 0.03) * w)), angle))
            cv2.fillConvexPoly(shape, np.int32(box), 1, cv2.LINE_AA)
        elif kind == 'cable':
            pts = np.cumsum(rng.normal(0, w * 0.06, (30, 2)), 0) + p
            cv2.polylines(shape, [np.int32(pts)], False, 1, int(rng.integers(2, 7)), cv2.LINE_AA)
        else:
            box = cv2.boxPoints((tuple(map(float, p)), tuple(map(float, rng.uniform(0.1, 0.55, 2) * w)), angle))
            cv2.fillConvexPoly(shape, np.int32(box), 1, cv2.LINE_AA)
        if keep_off is not None and (shape * keep_off).sum() > 0.06 * keep_off.sum():
            continue
        canvas *= shadow_of(rng, shape)[..., None]
        body = np.empty_like(canvas)
        body[:] = colour(rng)
        if kind in ('book', 'keys') and rng.random() < 0.6:
            tx = texture(rng, 128)
            body = cv2.resize(tx, (w, h))
        if kind == 'mug' and rng.random() < 0.7:
            cv2.circle(body, tuple(map(int, p)), int(r * 0.85), tuple(map(float, colour(rng, 15, 120))), -1, cv2.LINE_AA)
        paste(canvas, shape, body)


def desk(rng, longer=1, over=OVER):
    """One picture, `longer` times LONG: RGB uint8 (h, w, 3), page mask and page outline uint8 (h/2, w/2), corners px, aspect."""
    w, h = (SHORT * longer, LONG * longer) if rng.random() < 0.6 else (LONG * longer, SHORT * longer)
    W, H = w * over, h * over
    gy, gx = np.mgrid[0:H, 0:W].astype(np.float32)
    gx += 0.5
    gy += 0.5
    hom, plane, aspect = random_pose(rng, W, H)
    size = 384
    zoom = rng.uniform(90, 360)
    canvas = warp(texture(rng, size), np.linalg.inv(plane), gx, gy, (zoom, zoom, rng.uniform(0, size), rng.uniform(0, size)))
    u, v = page_coordinates(rng, hom, gx, gy)
    inside = ((u >= 0) & (u <= 1) & (v >= 0) & (v <= 1)).astype(np.float32)
    if inside.sum() < 0.04 * W * H:
        return desk(rng, longer, over)
    no_page = rng.random() < 0.03
    shade = rng.uniform(0.85, 1.02)
    paper_h = int(rng.uniform(0.55, 1.05) * max(W, H))
    paper_w = max(40, int(paper_h * aspect))
    # other sheets beneath
    pic = sheet(rng, paper_w, paper_h)
    for _ in range(rng.choice([0, 1, 2, 3], p=[0.45, 0.32, 0.15, 0.08])):
        turn = rng.normal(0, 0.3) if rng.random() < 0.7 else rng.uniform(0, 6.3)
        off = rng.choice([-1, 1], 2) * rng.uniform([0.08, 0.08], [0.75, 0.75])
        c, s = math.cos(turn), math.sin(turn)
        a2 = aspect if rng.random() < 0.6 else rng.uniform(0.5, 1.6)
        rel = np.array([[c * a2, -s, 0], [s * a2, c, 0], [0, 0, 1]]) @ np.array([[1, 0, -0.5], [0, 1, -0.5], [0, 0, 1]])
        back = np.array([[1 / aspect, 0, 0.5 + off[0]], [0, 1, 0.5 + off[1]], [0, 0, 1]])
        uu, vv = page_coordinates(rng, hom @ back @ rel, gx, gy)
        other = ((uu >= 0) & (uu <= 1) & (vv >= 0) & (vv <= 1)).astype(np.float32)
        canvas *= shadow_of(rng, other)[..., None]
        below = sheet(rng, max(40, int(paper_h * a2)), paper_h)
        if rng.random() < 0.5:  # the same pad: only a shadow and what is written tell them apart
            below *= np.median(pic, (0, 1)) / np.maximum(30, np.median(below, (0, 1)))
        paste(canvas, other, cv2.remap(below, uu * below.shape[1] - 0.5, vv * below.shape[0] - 0.5, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE) * (shade if rng.random() < 0.4 else rng.uniform(0.85, 1.03)))
    if rng.random() < 0.45:
        clutter(rng, canvas, int(rng.integers(1, 7)), inside)
    hole = np.zeros_like(inside)
    if not no_page:
        shown = inside.copy()
        if rng.random() < 0.1:  # punched or spiral holes along one side
            n = int(rng.choice([2, 4, 22, 34]))
            along, across = (v, u) if rng.random() < 0.7 else (u, v)
            ratio = aspect if across is u else 1 / aspect
            for k in range(n):
                hole += (((along - (k + 0.5) / n)) ** 2 + ((across - rng.uniform(0.02, 0.03)) * ratio) ** 2 < (0.25 / n if n > 9 else 0.01) ** 2)
            shown *= 1 - np.clip(hole, 0, 1)
        if rng.random() < 0.06:  # torn edge or turned-down corner
            if rng.random() < 0.5:
                shown *= (u + v > rng.uniform(0.03, 0.2))
            else:
                n = smooth_noise(rng, 1, 512, 1, rng.uniform(4, 20))[0]
                shown *= v > 0.03 * n[np.clip((u * 511), 0, 511).astype(int)]
        canvas *= np.where(inside > 0, 1, shadow_of(rng, inside, rng.uniform(0, 0.55)))[..., None]
        laid = cv2.remap(pic, u * paper_w - 0.5, v * paper_h - 0.5, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        if rng.random() < 0.5:
            laid = laid * (1 + rng.uniform(-0.15, 0.15) * np.sin((u if rng.random() < 0.5 else v) * rng.uniform(1, 4) + rng.uniform(0, 6)))[..., None]
        paste(canvas, shown, laid * shade)
        if rng.random() < 0.06:
            clutter(rng, canvas, 1, None)
    # light
    light = np.ones((H, W), np.float32)
    angle = rng.uniform(0, 2 * math.pi)
    slope = (gx / W - 0.5) * math.cos(angle) + (gy / H - 0.5) * math.sin(angle)
    light *= 1 - rng.uniform(0, 0.75) * rng.random() * (slope + 0.7)
    for _ in range(rng.choice([0, 1, 2, 3], p=[0.45, 0.3, 0.15, 0.1])):
        shadow = np.zeros((H, W), np.float32)
        if rng.random() < 0.5:
            pts = np.int32(rng.uniform(-0.2, 1.2, (rng.integers(3, 6), 2)) * [W, H])
            cv2.fillConvexPoly(shadow, cv2.convexHull(pts), 1)
        else:
            p = rng.uniform(0, 1, 2) * [W, H]
            cv2.ellipse(shadow, tuple(map(int, p)), tuple(map(int, rng.uniform(0.1, 0.5, 2) * W)), float(rng.uniform(0, 180)), 0, 360, 1, -1)
        light *= 1 - rng.uniform(0.15, 0.65) * cv2.GaussianBlur(shadow, (0, 0), rng.uniform(0.8, 3) if rng.random() < 0.5 else rng.uniform(3, 40))
    cast = np.array([1, 1, 1]) + rng.normal(0, 0.07, 3)
    if rng.random() < 0.2:
        cast = np.array([1.12, 1, rng.uniform(0.55, 0.85)])
    canvas = canvas * light[..., None] * cast
    if rng.random() < 0.08:  # glare
        p = rng.uniform(0, 1, 2) * [W, H]
        canvas += (rng.uniform(60, 200) * np.exp(-(((gx - p[0]) ** 2 + (gy - p[1]) ** 2) / (2 * (rng.uniform(0.04, 0.2) * W) ** 2))))[..., None]
    if rng.random() < 0.18:  # thumb from the border
        edge = rng.integers(0, 4)
        p = np.array([[rng.random() * W, -5], [W + 5, rng.random() * H], [rng.random() * W, H + 5], [-5, rng.random() * H]][edge])
        ys, xs = np.nonzero(inside)
        k = rng.integers(0, len(xs))
        tip = p + (np.array([xs[k], ys[k]]) - p) * rng.uniform(0.2, 0.6)
        finger = np.zeros((H, W), np.float32)
        cv2.line(finger, tuple(map(int, p)), tuple(map(int, tip)), 1, int(rng.uniform(0.05, 0.14) * W), cv2.LINE_AA)
        skin = np.array([[236, 188, 160], [214, 158, 124], [164, 108, 76], [104, 66, 46]][rng.integers(0, 4)]) * rng.uniform(0.6, 1)
        canvas *= shadow_of(rng, finger)[..., None]
        paste(canvas, cv2.GaussianBlur(finger, (0, 0), 1), skin * (0.7 + 0.3 * cv2.GaussianBlur(finger, (0, 0), 8))[..., None])
    # sensor
    level = np.percentile(canvas[::7, ::7], 97)
    canvas *= rng.uniform(150, 262) / max(30, level)
    if rng.random() < 0.35:
        canvas = cv2.GaussianBlur(canvas, (0, 0), rng.uniform(0.5, 2.4))
    small = cv2.resize(canvas, (w, h), interpolation=cv2.INTER_AREA)
    small += rng.normal(0, rng.uniform(0.3, 3) if rng.random() < 0.75 else rng.uniform(3, 14), small.shape)
    g = rng.uniform(0.75, 1.3)
    small = 255 * np.clip(small / 255, 0, 1) ** g
    if rng.random() < 0.05:
        small[:] = small.mean(2, keepdims=True)
    mask = np.zeros((h // 2, w // 2), np.uint8) if no_page else (cv2.resize(inside, (w // 2, h // 2), interpolation=cv2.INTER_AREA) * 255).astype(np.uint8)
    rim = np.zeros((H, W), np.float32)
    if not no_page:
        contours, _ = cv2.findContours(inside.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
        for contour in contours:
            pts = contour[:, 0]
            keep = (pts[:, 0] > 2) & (pts[:, 1] > 2) & (pts[:, 0] < W - 3) & (pts[:, 1] < H - 3)
            rim[pts[keep, 1], pts[keep, 0]] = 1
        rim = cv2.dilate(rim, np.ones((5, 5)))
    edge = (cv2.resize(rim, (w // 2, h // 2), interpolation=cv2.INTER_AREA) * 255).astype(np.uint8)
    corners = hom @ np.array([[0, 1, 1, 0], [0, 0, 1, 1], [1, 1, 1, 1]])
    return np.clip(small, 0, 255).astype(np.uint8), mask, edge, (corners[:2] / corners[2] / over).T, aspect


def standing(image, mask, edge):
    """Landscape pictures are turned, so that a batch has one shape; the network must not care."""
    if image.shape[1] > image.shape[0]:
        return np.rot90(image).copy(), np.rot90(mask).copy(), np.rot90(edge).copy()
    return image, mask, edge


def write(file: str, seed: int, count: int) -> None:
    cv2.setNumThreads(1)
    rng = np.random.default_rng(seed)
    images = np.empty((count, LONG, SHORT, 3), np.uint8)
    masks = np.empty((count, LONG // 2, SHORT // 2), np.uint8)
    edges = np.empty_like(masks)
    for i in range(count):
        images[i], masks[i], edges[i] = standing(*desk(rng)[:3])
    np.savez(file, images=images, masks=masks, edges=edges)


def photos(folder: str, seed: int, count: int) -> None:
    """Larger pictures with their truth, as bench/trainScorer.ts reads them."""
    rng = np.random.default_rng(seed)
    for i in range(count):
        picture, mask, _, corners, aspect = desk(rng, 4, 1)
        if mask.max() == 0:
            continue
        h, w = picture.shape[:2]
        ring = [{'x': float(x), 'y': float(y)} for x, y in corners]
        cv2.imwrite(f'{folder}/{seed}-{i:04}.jpg', picture[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, 88])
        with open(f'{folder}/{seed}-{i:04}.truth.json', 'w') as f:
            json.dump({'width': w, 'height': h, 'corners': ring, 'boundary': ring, 'pageWidthMm': 297 * aspect, 'pageHeightMm': 297}, f)


if __name__ == '__main__':
    command = {'sets': write, 'photos': photos}[sys.argv[1]]
    command(sys.argv[2], int(sys.argv[3]), int(sys.argv[4]))
