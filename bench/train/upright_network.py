"""Trains the network of core/imaging/upright/readUpright.ts, which tells which way up writing is, and writes its weights.

Development only; the app never runs Python. Needs Debian's python3-torch, python3-numpy, python3-opencv and python3-pil, and the fonts
of fonts/package.json, in print and handwriting, none of which the demo's pages use.
    npm install --ignore-scripts --prefix fonts
    python3 upright_network.py fonts OUT.ts STEPS SEED [START.ts]
The same fonts, steps and seed give the same weights (one thread: THREADS=1). Write them into manifest.json.
"""
import glob
import math
import os
import random
import sys
import time

import cv2
import numpy as np
import torch
import torch.nn.functional as F
from PIL import Image, ImageDraw, ImageFont
from torch import nn

from page_network import Conv, block, export, normalise_as_measured, restore

CROP = 160
# of each family: one that has many weights would be seen more often
FACES = ('400Regular.ttf', '700Bold.ttf', '400Regular_Italic.ttf')
SYLLABLES = 'the of and to in is that for on with as it by this be at from or are an we not can has which one all there their if will each about how up out them then she many some so these would other into more two like him time see no way could my than first been call who its now find long down day did get come made may part over new sound take only little work know place year live me back give most very after thing our just name good sentence man think say great where help through much before line right too mean old any same tell boy follow came want show also around form three small set put end does another well large must big even such because turn here why ask went men read need land different home us move try kind hand picture again change off play spell air away animal house point page letter mother answer found study still learn should'.split()


def word(rng):
    r = rng.random()
    if r < 0.62:
        w = rng.choice(SYLLABLES)
        return w.capitalize() if rng.random() < 0.12 else w
    if r < 0.74:
        return ''.join(rng.choice(SYLLABLES) for _ in range(2))[:11]
    if r < 0.86:
        return str(rng.randint(0, 9999)) if rng.random() < 0.6 else f'{rng.random() * 100:.{rng.randint(1, 3)}f}'
    if r < 0.94:
        return rng.choice('xyzabcfghknpqt') + rng.choice(['=', '+', '-', '(', ')', '²', '/', '<', "'"]) + rng.choice(['x', 'y', 't', '2', '7', 'π', 'm', 'kg'])
    return rng.choice(['=', '+', '→', '(a)', '1.', '2)', 'Fig.', 'Q3', 'i.e.', ':', '-'])


def page(rng, fonts):
    """A page of writing, upright, grey, and where on it writing stands (255)."""
    w, h = 700, 1000
    paper = rng.randint(170, 252)
    image, written = Image.new('L', (w, h), paper), Image.new('L', (w, h), 0)
    draw, mark = ImageDraw.Draw(image), ImageDraw.Draw(written)
    size = int(rng.choice([rng.uniform(11, 18), rng.uniform(16, 34)]))
    font = ImageFont.truetype(rng.choice(fonts), size)
    tone = int(paper * rng.uniform(0.05, 0.75))
    rule = rng.random()
    tone_rule = int(paper * rng.uniform(0.6, 0.95))
    if rule < 0.35:
        squared(draw, w, h, size * rng.uniform(1.05, 2.0), None, tone_rule, rng.choice([1, 1, 2]))
    elif rule < 0.6:
        step = rng.uniform(9, 28)
        squared(draw, w, h, step, step, tone_rule, 1)

    def say(x, y, line):
        draw.text((x, y), line, fill=tone, font=font)
        mark.text((x, y), line, fill=255, font=font)

    if rng.random() < 0.25:  # a drawing with a few words beside it
        sketch(draw, rng, w, h, int(paper * rng.uniform(0.05, 0.75)), rng.choice([3, 8, 20]))
        for _ in range(rng.randint(6, 20)):
            say(rng.uniform(0, w - 60), rng.uniform(0, h - size), ' '.join(word(rng) for _ in range(rng.choice([1, 1, 2, 3]))))
    else:
        pitch = size * rng.uniform(1.05, 2.0)
        left = rng.uniform(20, 120)
        y = rng.uniform(20, 120)
        while y < h - 20:
            if rng.random() < 0.9:
                x = left + rng.gauss(0, 3) + (rng.random() < 0.1) * 40
                stop = w - 30 if rng.random() < 0.7 else rng.uniform(left + 60, w - 30)
                line = ''
                while x + font.getlength(line + ' ') < stop:
                    line += (' ' if line else '') + word(rng)
                say(x, y, line.upper() if rng.random() < 0.07 else line)
            y += pitch * (1 if rng.random() < 0.92 else 1.8)
    return np.asarray(image, np.float32), np.asarray(written, np.float32)


def squared(draw, w, h, down, across, tone, width):
    for k in np.arange(0, h, down):
        draw.line((0, k, w, k), fill=tone, width=width)
    for k in np.arange(0, w, across) if across else []:
        draw.line((k, 0, k, h), fill=tone, width=width)


def drawing(rng):
    """A page without writing: curves, boxes, grids, nothing."""
    w, h = 700, 1000
    paper = rng.randint(170, 252)
    image = Image.new('L', (w, h), paper)
    draw = ImageDraw.Draw(image)
    sketch(draw, rng, w, h, int(paper * rng.uniform(0.05, 0.6)), rng.choice([0, 5, 40, 90]))
    if rng.random() < 0.4:
        step = rng.uniform(10, 40)
        squared(draw, w, h, step, step if rng.random() < 0.6 else None, int(paper * 0.8), 1)
    return np.asarray(image, np.float32), np.zeros((h, w), np.float32)


def sketch(draw, rng, w, h, tone, count):
    """Ellipses, boxes, crooked lines and filled blocks."""
    for _ in range(count):
        x, y, r = rng.uniform(0, w), rng.uniform(0, h), rng.uniform(5, 200)
        kind = rng.random()
        if kind < 0.3:
            draw.ellipse((x - r, y - r * rng.uniform(0.2, 1), x + r, y + r * 0.2), outline=tone, width=rng.choice([1, 2, 4]))
        elif kind < 0.5:
            draw.rectangle((x, y, x + r, y + rng.uniform(4, 150)), outline=tone, width=rng.choice([1, 2]))
        elif kind < 0.9:
            points = [(x, y)]
            for _ in range(rng.randint(2, 14)):
                points.append((points[-1][0] + rng.gauss(0, 40), points[-1][1] + rng.gauss(0, 40)))
            draw.line(points, fill=tone, width=rng.choice([1, 2, 3]))
        else:
            draw.rectangle((x, y, x + r * 0.5, y + r * 0.3), fill=tone)


LEAST_WRITING = 0.006


def crops(rng, fonts, count):
    """Crops as a flattened photo shows them: a little askew, unevenly lit, blurred, noisy; and whether they show writing."""
    g = np.random.default_rng(rng.randint(0, 1 << 30))
    sheet, writing = page(rng, fonts) if rng.random() < 0.87 else drawing(rng)
    out = []
    for _ in range(count):
        scale = rng.uniform(0.7, 1.5)
        angle = rng.gauss(0, 2.5)
        m = cv2.getRotationMatrix2D((0, 0), angle, scale)
        m[:, 2] = CROP / 2 - m[:, :2] @ np.array([rng.uniform(60, 640), rng.uniform(60, 940)])
        cut = lambda whole: cv2.warpAffine(whole, m, (CROP, CROP), flags=cv2.INTER_LINEAR if scale > 1 else cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE)
        crop = cut(sheet)
        share = cut(writing).mean() / 255
        if 0 < share < LEAST_WRITING:
            continue  # too little to say, too much to say nothing
        y, x = np.mgrid[0:CROP, 0:CROP] / CROP - 0.5
        a = rng.uniform(0, 6.3)
        crop *= 1 - rng.uniform(0, 0.4) * (x * math.cos(a) + y * math.sin(a) + 0.5)
        if rng.random() < 0.6:
            crop = cv2.GaussianBlur(crop, (0, 0), rng.uniform(0.4, 1.6))
        if rng.random() < 0.15:
            crop = cv2.filter2D(crop, -1, smear(rng), borderType=cv2.BORDER_REPLICATE)
        if rng.random() < 0.12:
            crop *= rng.uniform(0.2, 0.6)  # dim: noise is strong beside the ink
        crop += cv2.GaussianBlur(g.normal(0, rng.uniform(0.5, 9), crop.shape), (0, 0), rng.uniform(0.3, 0.9))
        out.append((standard(crop), share > 0))
    return out


def smear(rng):
    """The kernel of a hand that moved by one to four pixels."""
    k = np.zeros((7, 7), np.float32)
    reach, a = rng.uniform(0.5, 2), rng.uniform(0, math.pi)
    for t in np.linspace(-reach, reach, 21):
        k[round(3 + t * math.sin(a)), round(3 + t * math.cos(a))] += 1
    return k / k.sum()


def standard(crop):
    """Paper to 0, ink towards 1, whatever the light: what core/imaging/upright does to its crops."""
    field = cv2.blur(cv2.dilate(crop, np.ones((9, 9))), (31, 31), borderType=cv2.BORDER_REPLICATE)
    ink = np.clip(1 - crop / np.maximum(20, field), 0, 1)
    return (ink / max(0.15, float(np.quantile(ink, 0.97)))).clip(0, 1.5).astype(np.float32)


class Network(nn.Module):
    def __init__(self):
        super().__init__()
        self.layers = nn.ModuleDict({'stem_c': Conv(1, 12, 3, 2)})
        self.blocks = [('b1', 12, 24, 2, 3), ('b2', 24, 24, 1, 3), ('c1', 24, 48, 2, 3), ('c2', 48, 48, 1, 3), ('d1', 48, 64, 2, 3), ('d2', 64, 64, 1, 5), ('d3', 64, 64, 1, 5)]
        for name, into, out, stride, k in self.blocks:
            self.layers[f'{name}_d'] = Conv(into, into, k, stride, deep=True)
            self.layers[f'{name}_p'] = Conv(into, out)
        self.layers['head_h'] = Conv(64, 4, normed=False)

    def forward(self, crop):
        x = self.layers['stem_c'](crop)
        for name, *_ in self.blocks:
            x = block(self.layers, x, name)
        return self.layers['head_h'](x).mean((2, 3))  # logits of each quarter turn


def tensor(crops):
    return torch.from_numpy(np.ascontiguousarray(np.stack(crops))[:, None])


def train(folder, steps, seed, start=None):
    rng = random.Random(seed)
    torch.manual_seed(seed)
    files = glob.glob(f'{folder}/**/*.ttf', recursive=True)
    fonts = sorted((file for file in files if file.endswith(FACES)), key=os.path.basename)
    print(len(fonts), 'fonts')
    check_fonts, fonts = fonts[::9], [f for i, f in enumerate(fonts) if i % 9]
    check_crops = [c for _ in range(100) for c in crops(rng, check_fonts, 4)]
    check = [c for c, written in check_crops if written]
    pool = []
    model = Network()
    if start:
        restore(model, start)
        normalise_as_measured(model, tensor([c for c, _ in check_crops[:192]]))
    print(sum(p.numel() for p in model.parameters()), 'parameters', flush=True)
    optimiser = torch.optim.Adam(model.parameters(), 2e-3)

    def score():
        right = 0
        model.eval()
        with torch.no_grad():
            for turns in range(4):
                right += (model(tensor([np.rot90(c, -turns) for c in check])).numpy().argmax(1) == turns).mean() / 4
        model.train()
        return right

    print(f'at the start {score():.4f}', flush=True)
    began = time.time()
    shown = began
    values = []
    while (share := len(values) / steps) < 1:
        for _ in range(2 if len(pool) > 1500 else 12):
            pool += crops(rng, fonts, 8)
        if len(pool) > 9000:
            del pool[:64]
        for _ in range(6):
            chosen = rng.sample(pool, min(48, len(pool)))
            turns = [rng.randrange(4) for _ in chosen]
            x = tensor([np.rot90(c, -t) for (c, _), t in zip(chosen, turns)])
            # a crop that says nothing should say so
            y = np.stack([np.eye(4)[t] * 0.96 + 0.01 if written else np.full(4, 0.25) for (_, written), t in zip(chosen, turns)])
            for group in optimiser.param_groups:
                group['lr'] = 2e-3 * min(1, (len(values) + 1) / 100) * (0.5 + 0.5 * math.cos(math.pi * share)) + 1e-5
            optimiser.zero_grad()
            value = -(torch.from_numpy(y).float() * F.log_softmax(model(x), 1)).sum(1).mean()
            value.backward()
            optimiser.step()
            values.append(float(value))
        if time.time() - shown > 60:
            shown = time.time()
            print(f'{shown - began:.0f} s, {len(values)} steps, loss {np.mean(values[-100:]):.4f}, crops of unseen fonts right {score():.3f}', flush=True)
    print(f'crops of unseen fonts right {score():.4f}')
    return model


if __name__ == '__main__':
    torch.set_num_threads(int(os.environ.get('THREADS', '2')))
    fonts_folder, file, steps, seed, *start = sys.argv[1:]
    export(train(fonts_folder, int(steps), int(seed), *start), file, 'UPRIGHT_NETWORK_WEIGHTS')
