"""Trains the page network of core/detect/pageNetwork.ts and writes its weights.

Development only; the app never runs Python. Needs numpy, opencv-python-headless and tensorflow-cpu.
    python3 random_desks.py sets/a.npz 100 1300        (as often as wanted, with other seeds)
    python3 page_network.py train sets core/detect/pageNetworkWeights.ts MINUTES [check.npz]
"""
import base64
import glob
import json
import sys
import time

import numpy as np
import tensorflow as tf
from tensorflow.keras import layers as L

SIZE = (256, 192)


def norm(x, name):
    return L.ReLU()(L.BatchNormalization(name=f'{name}_bn', momentum=0.98)(x))


def separable(x, out, name, stride=1, k=3):
    y = norm(L.DepthwiseConv2D(k, stride, padding='same', use_bias=False, name=f'{name}_d')(x), f'{name}_d')
    y = norm(L.Conv2D(out, 1, use_bias=False, name=f'{name}_p')(y), f'{name}_p')
    return L.Add()([x, y]) if stride == 1 and x.shape[-1] == out else y


def point(x, out, name):
    return norm(L.Conv2D(out, 1, use_bias=False, name=f'{name}_p')(x), f'{name}_p')


def up(x):
    return L.UpSampling2D(2, interpolation='nearest')(x)


def network():
    image = L.Input((None, None, 3))
    a = norm(L.Conv2D(12, 3, 2, padding='same', use_bias=False, name='stem_c')(image), 'stem_c')  # 1/2
    b = separable(separable(a, 24, 'b1', 2), 24, 'b2')  # 1/4
    c = separable(separable(b, 48, 'c1', 2), 48, 'c2')  # 1/8
    d = separable(c, 96, 'd1', 2)  # 1/16
    for i in range(4):
        d = separable(d, 96, f'd{i + 2}', 1, 5)
        if i in (0, 2):
            g = L.GlobalAveragePooling2D(keepdims=True)(d)
            g = L.Conv2D(96, 1, name=f'g{i + 2}_g')(g)
            d = L.Add()([d, g])
    c = separable(L.Add()([up(point(d, 48, 'u1')), c]), 48, 'c3')
    b = separable(separable(L.Add()([up(point(c, 24, 'u2')), b]), 24, 'b3'), 24, 'b4')
    a = separable(L.Add()([up(point(b, 12, 'u3')), a]), 12, 'a2')
    out = L.Conv2D(2, 1, name='head_h')(a)  # page, edge; logits
    return tf.keras.Model(image, out)


def loss(truth, logits):
    page, edge = truth[..., 0], truth[..., 1]
    bce = tf.nn.sigmoid_cross_entropy_with_logits(page, logits[..., 0])
    p = tf.sigmoid(logits[..., 0])
    overlap = 2 * tf.reduce_sum(p * page, (1, 2)) + 20
    dice = 1 - overlap / (tf.reduce_sum(p + page, (1, 2)) + 20)
    rim = tf.nn.weighted_cross_entropy_with_logits(edge, logits[..., 1], 4.0)
    return tf.reduce_mean(bce) + tf.reduce_mean(dice) + tf.reduce_mean(rim)


def iou(model, file):
    s = np.load(file)
    total = []
    for k in range(0, len(s['images']), 50):
        p = model(tf.cast(s['images'][k:k + 50], tf.float32) / 127.5 - 1, training=False).numpy()[..., 0] > 0
        t = s['masks'][k:k + 50] > 127
        total += list((p & t).sum((1, 2)) / np.maximum(1, (p | t).sum((1, 2))))
    return f'{file}: mean IoU {np.mean(total):.4f}, 0.9 or more {np.mean(np.array(total) > 0.9):.3f}, lowest tenth {np.quantile(total, 0.1):.3f}'


def batches(folder, size, seed):
    rng = np.random.default_rng(seed)
    while True:
        files = sorted(glob.glob(f'{folder}/set*.npz'))
        rng.shuffle(files)
        for k in range(0, len(files), 3):
            sets = [np.load(f) for f in files[k:k + 3]]
            images = np.concatenate([s['images'] for s in sets])
            masks = np.concatenate([np.stack([s['masks'], s['edges']], -1) for s in sets])
            for part in np.array_split(rng.permutation(len(images)), len(images) // size):
                x = images[part].astype(np.float32) / 127.5 - 1
                y = masks[part].astype(np.float32) / 255
                if rng.random() < 0.5:
                    x, y = x[:, ::-1], y[:, ::-1]
                if rng.random() < 0.5:
                    x, y = x[:, :, ::-1], y[:, :, ::-1]
                if rng.random() < 0.3:
                    x = x[..., rng.permutation(3)]
                yield x, y


def train(folder, minutes, checks, start=None):
    model = network()
    if start:
        restore(model, start)
    print(model.count_params(), 'parameters', flush=True)
    optimiser = tf.keras.optimizers.Adam(2e-3)

    @tf.function(reduce_retracing=True)
    def step(x, y):
        with tf.GradientTape() as tape:
            value = loss(y, model(x, training=True))
        grads = tape.gradient(value, model.trainable_variables)
        grads, _ = tf.clip_by_global_norm(grads, 2.0)
        optimiser.apply_gradients(zip(grads, model.trainable_variables))
        return value

    began = time.time()
    shown = began
    values = []
    high = 1.2e-3 if start else 2.5e-3
    for n, (x, y) in enumerate(batches(folder, 24, int(began))):
        share = (time.time() - began) / (minutes * 60)
        if share >= 1:
            break
        optimiser.learning_rate.assign(high * min(1, (n + 1) / 100) * (0.5 + 0.5 * np.cos(np.pi * share)) + 1e-5)
        values.append(float(step(tf.constant(x), tf.constant(y))))
        if time.time() - shown > 60:
            shown = time.time()
            print(f'{shown - began:.0f} s, step {n}, loss {np.mean(values[-100:]):.4f}', flush=True)
            if int((shown - began) / 60) % 4 == 0:
                for check in checks:
                    print(' ', iou(model, check), flush=True)
                model.save_weights('/tmp/pn/latest.weights.h5')
    for check in checks:
        print(iou(model, check))
    model.save_weights('/tmp/pn/final.weights.h5')
    return model


def folded(model):
    """Every convolution with its batch normalisation folded in: (name, weights [.., out], bias)."""
    layers = {layer.name: layer for layer in model.layers}
    for layer in model.layers:
        if not isinstance(layer, (L.Conv2D, L.DepthwiseConv2D)):
            continue
        w = layer.get_weights()[0]
        deep = isinstance(layer, L.DepthwiseConv2D)
        if deep:
            w = w[..., 0]
        bn = layers.get(f'{layer.name}_bn')
        if bn is None:
            yield layer.name, w, layer.get_weights()[1]
            continue
        gamma, beta, mean, var = bn.get_weights()
        k = gamma / np.sqrt(var + bn.epsilon)
        yield layer.name, w * k, beta - mean * k


def restore(model, file):
    """Reads back what export wrote; batch normalisation begins as nothing."""
    text = open(file).read()
    stored = json.loads(text[text.index('= {') + 2:text.rindex(';')])
    for layer in model.layers:
        if layer.name not in stored:
            continue
        s = stored[layer.name]
        w = np.frombuffer(base64.b64decode(s['w']), np.int8).astype(np.float32).reshape(-1, len(s['s'])) * np.array(s['s'], np.float32)
        shape = layer.get_weights()[0].shape
        bn = next((b for b in model.layers if b.name == f'{layer.name}_bn'), None)
        layer.set_weights([w.reshape(shape)] if bn else [w.reshape(shape), np.array(s['b'], np.float32)])
        if bn:
            bn.set_weights([np.ones(len(s['b'])), np.array(s['b']), np.zeros(len(s['b'])), np.ones(len(s['b']))])


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
        f.write("import type { StoredLayer } from '../raster/convolution';\n\n")
        f.write(f'export const {constant}: Readonly<Record<string, StoredLayer>> = {json.dumps(out)};\n')


if __name__ == '__main__':
    command, folder, file, minutes, *rest = sys.argv[1:]
    start = rest.pop(rest.index('--from') + 1) if '--from' in rest else None
    rest = [r for r in rest if r != '--from']
    export(train(folder, float(minutes), rest, start), file, 'PAGE_NETWORK_WEIGHTS')
