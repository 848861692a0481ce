import { randomUUID } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { routeOf } from './routeOf';

/** A line for each request: its id (also in the answer's header), method, route, status and time; never an address, a name or a cookie. */
export function requestLog(log: Logger): RequestHandler {
  const facts = (req: Request, res: Response, { responseTime }: { readonly responseTime: number }) => ({
    method: req.method,
    route: routeOf(req),
    status: res.statusCode,
    ms: responseTime,
  });
  return pinoHttp<Request, Response>({
    logger: log,
    quietReqLogger: true,
    quietResLogger: true,
    genReqId(_req, res) {
      const id = randomUUID();
      res.setHeader('x-request-id', id);
      return id;
    },
    customLogLevel: (_req, res) => (res.statusCode >= 500 ? 'error' : 'info'),
    customSuccessObject: (req, res, value: { readonly responseTime: number }) => facts(req, res, value),
    customErrorObject: (req, res, _error, value: { readonly responseTime: number }) => facts(req, res, value),
    customSuccessMessage: () => 'answered',
    customErrorMessage: (_req, res) => (res.writableEnded ? 'failed' : 'broken off'),
  });
}
