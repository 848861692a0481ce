"""Runs the networks that ship with torch, on inputs that the tests make too, and writes what comes out.

    python3 parity.py

core/imaging/network/parity.test.ts holds the app's own inference against it. Run it again when weights change.
"""
import json
import os

import numpy as np
import torch

import page_network
import upright_network

HERE = os.path.dirname(os.path.abspath(__file__))
CORE = os.path.join(HERE, '..', '..', 'core', 'imaging')
WIDTH, HEIGHT = 192, 256
CROP = 160
EVERY = 97


def pattern(width, height, channels):
    """Waves and edges in whole levels, 0 to 255, [y, x, channel]: the tests make the same."""
    y, x, c = np.meshgrid(np.arange(height), np.arange(width), np.arange(channels), indexing='ij')
    return ((x * 7 + y * 13 + c * 50 + (x * y) // 16 + 90 * ((x // 40 + y // 56) % 2)) % 256).astype(np.uint8)


def run(model, weights, image):
    page_network.restore(model, os.path.join(CORE, weights))
    model.eval()
    with torch.no_grad():
        return model(image).numpy()


def main():
    page = run(
        page_network.Network(),
        'detect/pageNetworkWeights.ts',
        page_network.picture(pattern(WIDTH, HEIGHT, 3)[None]),
    )[0]
    chances = 1 / (1 + np.exp(-page.reshape(2, -1)))
    crop = pattern(CROP, CROP, 1)[:, :, 0].astype(np.float32) / 255
    upright = run(upright_network.Network(), 'upright/uprightNetworkWeights.ts', torch.from_numpy(crop)[None, None])[0]
    with open(os.path.join(CORE, 'network', 'parity.json'), 'w') as out:
        json.dump(
            {
                'every': EVERY,
                'page': [round(float(v), 6) for v in chances[0][::EVERY]],
                'edge': [round(float(v), 6) for v in chances[1][::EVERY]],
                'upright': [round(float(v), 5) for v in upright],
            },
            out,
        )
        out.write('\n')


main()
