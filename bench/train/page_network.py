"""Trains the page network of core/imaging/detect/pageNetwork.ts and writes its weights.

Development only; the app never runs Python. Needs Debian's python3-torch, python3-numpy and python3-opencv.
    python3 random_desks.py sets SETS/set1.npz 100 1300      drawn desks, as often as wanted, with other seeds
    python3 page_network.py photos SETS/set_photos1.npz FOLDER   simulated photos with their truth, as bench takes them
    python3 page_network.py train SETS OUT.ts STEPS SEED [--from WEIGHTS.ts] [check.npz …]
The same sets, steps and seed give the same weights (one thread: THREADS=1). Write them into manifest.json.
"""
import base64
import glob
import json
import os
import sys
import time

import numpy as np
import torch
from torch import nn
import torch.nn.functional as F

SIZE = (256, 192)
MOMENTUM = 0.03


class Conv(nn.Module):
    """A convolution as the app runs it: padded so that the output covers the input, with or without normalisation."""

    def __init__(self, into, out, k=1, stride=1, deep=False, normed=True):
        super().__init__()
        self.k, self.stride, self.deep = k, stride, deep
        self.conv = nn.Conv2d(into, out, k, stride, 0, groups=into if deep else 1, bias=not normed)
        self.bn = nn.BatchNorm2d(out, eps=1e-3, momentum=MOMENTUM) if normed else None

    def forward(self, x):
        # an odd pixel of padding goes behind, as in the app
        total = max(0, self.k - self.stride) if x.shape[2] % self.stride == 0 else self.k - 1
        low = total // 2
        x = self.conv(F.pad(x, (low, total - low, low, total - low)))
        return x if self.bn is None else F.relu(self.bn(x))


def block(layers, x, name):
    """A separable convolution, with what went in added where the shapes agree."""
    y = layers[f'{name}_p'](layers[f'{name}_d'](x))
    return x + y if y.shape == x.shape else y


class Network(nn.Module):
    def __init__(self):
        super().__init__()
        self.layers = nn.ModuleDict()
        self.layers['stem_c'] = Conv(3, 12, 3, 2)
        for name, into, out, stride, k in [
            ('b1', 12, 24, 2, 3), ('b2', 24, 24, 1, 3), ('c1', 24, 48, 2, 3), ('c2', 48, 48, 1, 3), ('d1', 48, 96, 2, 3),
            ('d2', 96, 96, 1, 5), ('d3', 96, 96, 1, 5), ('d4', 96, 96, 1, 5), ('d5', 96, 96, 1, 5),
            ('c3', 48, 48, 1, 3), ('b3', 24, 24, 1, 3), ('b4', 24, 24, 1, 3), ('a2', 12, 12, 1, 3),
        ]:
            self.layers[f'{name}_d'] = Conv(into, into, k, stride, deep=True)
            self.layers[f'{name}_p'] = Conv(into, out)
        for name, into, out in [('u1_p', 96, 48), ('u2_p', 48, 24), ('u3_p', 24, 12)]:
            self.layers[name] = Conv(into, out)
        for name in ('g2_g', 'g4_g'):
            self.layers[name] = Conv(96, 96, normed=False)
        self.layers['head_h'] = Conv(12, 2, normed=False)

    def forward(self, image):
        at = self.layers
        a = at['stem_c'](image)  # 1/2
        b = block(at, block(at, a, 'b1'), 'b2')  # 1/4
        c = block(at, block(at, b, 'c1'), 'c2')  # 1/8
        d = block(at, c, 'd1')  # 1/16
        for i in range(2, 6):
            d = block(at, d, f'd{i}')
            if i in (2, 4):
                d = d + at[f'g{i}_g'](d.mean((2, 3), keepdim=True))
        up = lambda x: F.interpolate(x, scale_factor=2, mode='nearest')
        c = block(at, up(at['u1_p'](d)) + c, 'c3')
        b = block(at, block(at, up(at['u2_p'](c)) + b, 'b3'), 'b4')
        a = block(at, up(at['u3_p'](b)) + a, 'a2')
        return at['head_h'](a)  # page, edge; logits


def loss(truth, logits):
    page, edge = truth[:, 0], truth[:, 1]
    bce = F.binary_cross_entropy_with_logits(logits[:, 0], page)
    p = torch.sigmoid(logits[:, 0])
    overlap = 2 * (p * page).sum((1, 2)) + 20
    dice = 1 - overlap / ((p + page).sum((1, 2)) + 20)
    rim = F.binary_cross_entropy_with_logits(logits[:, 1], edge, pos_weight=torch.tensor(4.0))
    return bce + dice.mean() + rim


def picture(images):
    return torch.from_numpy(images.astype(np.float32) / 127.5 - 1).permute(0, 3, 1, 2).contiguous()


def iou(model, file):
    model.eval()
    s = np.load(file)
    total = []
    with torch.no_grad():
        for k in range(0, len(s['images']), 25):
            p = model(picture(s['images'][k:k + 25])).numpy()[:, 0] > 0
            t = s['masks'][k:k + 25] > 127
            total += list((p & t).sum((1, 2)) / np.maximum(1, (p | t).sum((1, 2))))
    model.train()
    return f'{file}: mean IoU {np.mean(total):.4f}, 0.9 or more {np.mean(np.array(total) > 0.9):.3f}, lowest tenth {np.quantile(total, 0.1):.3f}'


def batches(folder, size, seed):
    """Drawn desks and simulated photos (set_photos*) half and half where both are there."""
    rng = np.random.default_rng(seed)
    while True:
        drawn = sorted(set(glob.glob(f'{folder}/set*.npz')) - set(glob.glob(f'{folder}/set_photos*.npz')))
        taken = sorted(glob.glob(f'{folder}/set_photos*.npz'))
        rng.shuffle(drawn)
        rng.shuffle(taken)
        sets = [np.load(f) for f in drawn[:2] + taken[:2]]
        images = np.concatenate([s['images'] for s in sets])
        masks = np.concatenate([np.stack([s['masks'], s['edges']], 1) for s in sets])
        for part in np.array_split(rng.permutation(len(images)), len(images) // size):
            x, y = images[part], masks[part].astype(np.float32) / 255
            if rng.random() < 0.5:
                x, y = x[:, ::-1], y[:, :, ::-1]
            if rng.random() < 0.5:
                x, y = x[:, :, ::-1], y[:, :, :, ::-1]
            if rng.random() < 0.3:
                x = x[..., rng.permutation(3)]
            yield picture(x), torch.from_numpy(np.ascontiguousarray(y))


def train(folder, file, steps, seed, checks, start=None, high=2.5e-3):
    torch.manual_seed(seed)
    model = Network()
    if start:
        restore(model, start)
        normalise_as_measured(model, next(batches(folder, 192, 1))[0])
    print(sum(p.numel() for p in model.parameters()), 'parameters', flush=True)
    for check in checks:
        print('at the start', iou(model, check), flush=True)
    optimiser = torch.optim.Adam(model.parameters(), 2e-3)
    began = shown = time.time()
    values = []
    for n, (x, y) in enumerate(batches(folder, 24, seed)):
        share = n / steps
        if share >= 1:
            break
        for group in optimiser.param_groups:
            group['lr'] = high * min(1, (n + 1) / 100) * (0.5 + 0.5 * np.cos(np.pi * share)) + 1e-5
        optimiser.zero_grad()
        value = loss(y, model(x))
        value.backward()
        nn.utils.clip_grad_norm_(model.parameters(), 2.0)
        optimiser.step()
        values.append(float(value))
        if time.time() - shown > 60:
            shown = time.time()
            print(f'{shown - began:.0f} s, step {n}, loss {np.mean(values[-100:]):.4f}', flush=True)
            if len(values) and int((shown - began) / 60) % 10 == 0:
                for check in checks:
                    print(' ', iou(model, check), flush=True)
                export(model, f'{file}.latest', 'PAGE_NETWORK_WEIGHTS')
    for check in checks:
        print(iou(model, check))
    export(model, file, 'PAGE_NETWORK_WEIGHTS')


def folded(model):
    """Every convolution with its batch normalisation folded in: (name, weights [k, k, in, out], bias)."""
    for name, layer in model.layers.items():
        w = layer.conv.weight.detach().numpy()
        w = w[:, 0].transpose(1, 2, 0) if layer.deep else w.transpose(2, 3, 1, 0)
        if layer.bn is None:
            yield name, w, layer.conv.bias.detach().numpy()
            continue
        bn = layer.bn
        k = bn.weight.detach().numpy() / np.sqrt(bn.running_var.numpy() + bn.eps)
        yield name, w * k, bn.bias.detach().numpy() - bn.running_mean.numpy() * k


def restore(model, file):
    """Reads back what export wrote; batch normalisation does nothing."""
    text = open(file).read()
    stored = json.loads(text[text.index('= {') + 2:text.rindex(';')])
    for name, layer in model.layers.items():
        s = stored[name]
        w = np.frombuffer(base64.b64decode(s['w']), np.int8).astype(np.float32).reshape(-1, len(s['s'])) * np.array(s['s'], np.float32)
        out, into, k, _ = layer.conv.weight.shape
        w = w.reshape(k, k, out).transpose(2, 0, 1)[:, None] if layer.deep else w.reshape(k, k, into, out).transpose(3, 2, 0, 1)
        bias = torch.tensor(s['b'])
        with torch.no_grad():
            layer.conv.weight.copy_(torch.from_numpy(np.ascontiguousarray(w)))
            if layer.bn is None:
                layer.conv.bias.copy_(bias)
            else:
                layer.bn.bias.copy_(bias)
                layer.bn.running_var.fill_(1 - layer.bn.eps)


def normalise_as_measured(model, images):
    """Gives batch normalisation the means and variances that the layers have on these images, and undoes them: nothing changes."""
    with torch.no_grad():
        for layer in model.layers.values():
            if layer.bn is not None:
                layer.bn.register_forward_pre_hook(_measure)
        model.eval()
        model(images)
        for layer in model.layers.values():
            if layer.bn is not None:
                layer.bn._forward_pre_hooks.clear()
        model.train()


def _measure(bn, inputs):
    mean, var = inputs[0].mean((0, 2, 3)), inputs[0].var((0, 2, 3), unbiased=False)
    bias = bn.bias - bn.running_mean * bn.weight / torch.sqrt(bn.running_var + bn.eps)
    gain = bn.weight / torch.sqrt(bn.running_var + bn.eps)
    bn.running_mean.copy_(mean)
    bn.running_var.copy_(var)
    bn.weight.copy_(gain * torch.sqrt(var + bn.eps))
    bn.bias.copy_(bias + gain * mean)


def export(model, file, constant):
    """Eight-bit weights with one scale an output channel, base64; biases as they are."""
    out = {}
    for name, w, bias in folded(model):
        flat = w.reshape(-1, w.shape[-1])
        scale = np.maximum(1e-9, np.abs(flat).max(0)) / 127
        q = np.round(flat / scale).astype(np.int8)
        out[name] = {'w': base64.b64encode(q.tobytes()).decode(), 's': [float(f'{v:.5g}') for v in scale], 'b': [float(f'{v:.5g}') for v in bias]}
    with open(file, 'w') as f:
        f.write('// Written by bench/train; do not edit by hand.\n')
        f.write("import type { StoredLayer } from '../network/convolution';\n\n")
        f.write(f'export const {constant}: Readonly<Record<string, StoredLayer>> = {json.dumps(out)};\n')


def photos(file, folder):
    """Simulated photos at the network's size, with the mask and the rim of their page."""
    import cv2
    h, w = SIZE
    images, masks, edges = [], [], []
    for name in sorted(glob.glob(f'{folder}/*.truth.json')):
        truth = json.load(open(name))
        image = cv2.imread(name.replace('.truth.json', '.jpg'))[..., ::-1]
        ring = np.array([[p['x'], p['y']] for p in truth['boundary']], np.float32) * [image.shape[1] / truth['width'], image.shape[0] / truth['height']]
        if image.shape[1] > image.shape[0]:
            ring = np.stack([ring[:, 1], image.shape[1] - ring[:, 0]], 1)
            image = np.rot90(image)
        ring = ring * [2 * w / image.shape[1], 2 * h / image.shape[0]]
        inside = np.zeros((2 * h, 2 * w), np.uint8)
        cv2.fillPoly(inside, [np.int32(np.round(ring * 16))], 255, shift=4)
        rim = np.zeros((2 * h, 2 * w), np.uint8)
        cv2.polylines(rim, [np.int32(np.round(ring * 16))], True, 255, 5, shift=4)
        images.append(cv2.resize(np.ascontiguousarray(image), (w, h), interpolation=cv2.INTER_AREA))
        masks.append(cv2.resize(inside, (w // 2, h // 2), interpolation=cv2.INTER_AREA))
        edges.append(cv2.resize(rim, (w // 2, h // 2), interpolation=cv2.INTER_AREA))
    np.savez(file, images=np.stack(images), masks=np.stack(masks), edges=np.stack(edges))
    print(len(images), 'photos')


if __name__ == '__main__':
    command, *rest = sys.argv[1:]
    if command == 'photos':
        photos(*rest)
    else:
        torch.set_num_threads(int(os.environ.get('THREADS', '2')))
        # --from WEIGHTS.ts goes on where those stand; --rate is the highest learning rate, lower the less is left to learn
        options = {}
        for name in ('--from', '--rate'):
            if name in rest:
                at = rest.index(name)
                options[name] = rest[at + 1]
                del rest[at:at + 2]
        folder, file, steps, seed, *checks = rest
        train(folder, file, int(steps), int(seed), checks, options.get('--from'), float(options.get('--rate', 2.5e-3)))
