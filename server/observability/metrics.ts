import type { RequestHandler } from 'express';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { routeOf } from './routeOf';

export interface Metrics {
  readonly registry: Registry;
  /** Counts each request and how long it took, by route and status. */
  readonly count: RequestHandler;
  /** A number that is asked for whenever the metrics are. */
  gauge(name: string, help: string, value: () => number): void;
}

/** What a monitor asks for, in Prometheus's text format. One for each process: it watches the event loop. */
export function createMetrics(): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const labelNames = ['method', 'route', 'status'] as const;
  const requests = new Counter({
    name: 'fotoplan_requests_total',
    help: 'Requests answered.',
    labelNames,
    registers: [registry],
  });
  const seconds = new Histogram({
    name: 'fotoplan_request_seconds',
    help: 'How long requests took.',
    labelNames,
    buckets: [0.005, 0.025, 0.1, 0.25, 1, 2.5, 10, 60],
    registers: [registry],
  });
  return {
    registry,
    count(req, res, next) {
      const began = performance.now();
      res.once('close', () => {
        const labels = { method: req.method, route: routeOf(req), status: String(res.statusCode) };
        requests.inc(labels);
        // an open event stream is no slow request
        if (!String(res.getHeader('content-type')).startsWith('text/event-stream'))
          seconds.observe(labels, (performance.now() - began) / 1000);
      });
      next();
    },
    gauge: (name, help, value) =>
      void new Gauge({
        name,
        help,
        registers: [registry],
        collect() {
          this.set(value());
        },
      }),
  };
}
