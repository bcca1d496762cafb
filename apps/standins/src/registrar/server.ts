/** The registrar over HTTP: availability by RDAP, and an account with prices, orders and a zone panel. */
import { checkHostName, readZone, writeZone } from '@fastigium/core/dns';
import express, { type Express } from 'express';
import { z } from 'zod';
import type { FaultBoard } from '../world/faults.ts';
import { answerErrors, requireBearer, readBody } from '../world/http.ts';
import { writeRdapAnswer, writeRdapNotFound } from './rdap.ts';
import { NAME_SERVERS, PRICES, describeProblem, type Registry } from './registry.ts';

export function createRegistrar(registry: Registry, token: string, faults: FaultBoard): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Fastigium registrar stand-in (simulated)');
    if (faults.now.registrar === 'silent') return;
    if (faults.now.registrar === 'refuses') res.status(503).json({ error: 'the stand-in was told to refuse' });
    else next();
  });
  app.get('/rdap/domain/:name', (req, res) => {
    const checked = checkHostName(req.params.name);
    res.type('application/rdap+json');
    if (!checked.ok) {
      res.status(400).json({ rdapConformance: ['rdap_level_0'], errorCode: 400, title: 'Not a domain name' });
      return;
    }
    const held = registry.find(checked.name);
    if (held) res.json(writeRdapAnswer(held));
    else res.status(404).json(writeRdapNotFound(checked.name));
  });
  app.get('/prices', (_req, res) => void res.json({ prices: PRICES }));

  const json = express.json({ limit: '4mb' });
  app.use(requireBearer(token));
  app.post('/orders', json, async (req, res) => {
    const { name, years, privacy } = readBody(
      z.object({ name: z.string(), years: z.number().int().min(1).max(10), privacy: z.boolean() }),
      req.body,
    );
    const checked = checkHostName(name);
    if (!checked.ok || registry.ending(checked.name) === undefined)
      res.status(422).json({ error: 'names under this ending are not sold here' });
    else if (registry.find(checked.name)) res.status(409).json({ error: 'somebody holds this name' });
    else {
      const { expiresAtMs, updateKey } = await registry.register(checked.name, years, privacy);
      res.status(201).json({ name: checked.name, expiresAtMs, nameServers: NAME_SERVERS, updateKey });
    }
  });
  app.get('/holdings/:name', (req, res) => {
    const held = registry.find(req.params.name);
    if (held?.heldBy !== 'account') res.status(404).json({ error: 'this name is not in the account' });
    else
      res.json({
        name: held.name,
        expiresAtMs: held.expiresAtMs,
        nameServers: NAME_SERVERS,
        updateKey: held.updateKey,
      });
  });
  app.get('/zones/:zone', (req, res) => {
    const held = registry.find(req.params.zone);
    if (held?.heldBy !== 'account') res.status(404).json({ error: 'this zone is not in the account' });
    else res.json({ zone: held.name, text: writeZone(held.name, held.records) });
  });
  app.put('/zones/:zone', json, async (req, res) => {
    const { text } = readBody(z.object({ text: z.string().max(1_000_000) }), req.body);
    const zone = readZone(text, req.params.zone);
    if (!zone.ok) {
      res.status(422).json({ error: describeProblem(zone.problems[0]) });
      return;
    }
    const change = await registry.replaceZone(req.params.zone, zone.records);
    if (change.ok) res.json({ zone: req.params.zone });
    else res.status(422).json({ error: change.reason });
  });
  app.use(answerErrors);
  return app;
}
