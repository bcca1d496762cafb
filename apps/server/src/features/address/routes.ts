import { addressApi } from '@fastigium/contracts/api/address';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { readEndpoint } from '../../adapters/world/routes.ts';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { addFurther, connectDomain, letGo, setAddress } from './domain.ts';
import { findNames, registerName, useAccount } from './find.ts';
import { lookUpNow, orderCertificate } from './lookUpNow.ts';
import { readSiteAddress } from '../shared/siteAddress.ts';
import { readAddressView } from './view.ts';
import { bringZone, keepUpdateKey, sendUpdate, exportZone } from './zone.ts';

export function addAddressRoutes(routes: Routes, deps: Deps): void {
  const view = (site: string) => readAddressView(deps, site);
  routes.on(addressApi.view, ({ params }) => view(params.site));
  routes.on(addressApi.lookUp, async ({ params }) => {
    await lookUpNow(deps, params.site);
    return view(params.site);
  });
  routes.on(addressApi.find, ({ params, query }) => findNames(deps, params.site, query.q));
  routes.on(addressApi.register, async ({ params, body, person }) => {
    await registerName(deps, params.site, person.id, body);
    return view(params.site);
  });
  routes.on(addressApi.bring, async ({ params, body, person }) => {
    await connectDomain(deps, params.site, person.id, body.name);
    await useAccount(deps, params.site, (await readSiteAddress(deps.db, params.site))?.zones[0]?.zone ?? '');
    return view(params.site);
  });
  routes.on(addressApi.leave, async ({ params }) => {
    await letGo(deps, params.site, params.name);
    if (await readSiteAddress(deps.db, params.site)) await lookUpNow(deps, params.site);
    return view(params.site);
  });
  routes.on(addressApi.further, async ({ params, body, person }) => {
    await addFurther(deps, params.site, person.id, body.name);
    await lookUpNow(deps, params.site);
    return view(params.site);
  });
  routes.on(addressApi.settings, async ({ params, body }) => {
    await setAddress(deps, params.site, body);
    await lookUpNow(deps, params.site);
    return view(params.site);
  });
  routes.on(addressApi.zone, ({ params }) => exportZone(deps, params.site));
  routes.on(addressApi.bringZone, ({ params, body }) => bringZone(deps, params.site, body.text));
  routes.on(addressApi.updateKey, async ({ params, body }) => {
    await keepUpdateKey(deps, params.site, body);
    return view(params.site);
  });
  routes.on(addressApi.sendUpdate, async ({ params, body }) => {
    await sendUpdate(deps, params.site, body.changes);
    return view(params.site);
  });
  routes.on(addressApi.orderCertificate, async ({ params, body }) => {
    await lookUpNow(deps, params.site);
    return deps.db.transaction(async (tx) => {
      const address = await readSiteAddress(tx, params.site);
      const zone = address?.zones.find((each, index) =>
        body.zone === undefined ? index === 0 : each.zone === body.zone,
      );
      if (!zone) throw new DomainError('no-domain');
      const running = await tx.maybeOne<{ id: string }>(
        `select id from job where site_id = $1 and kind = 'certificate' and body ->> 'zone' = $2 and state in ('waiting', 'running') limit 1`,
        [params.site, zone.zone],
      );
      return { job: running?.id ?? (await orderCertificate(tx, params.site, zone)) };
    });
  });
  routes.on(addressApi.addResolver, async ({ params, body, person }) => {
    const { address, port } = readEndpoint(body.address);
    if (!/^[0-9a-f.:]+$/i.test(address) || port < 1 || port > 65_535)
      throw new DomainError('input-invalid', { detail: reason('resolver-address') });
    await deps.db.run(
      'insert into resolver (team_id, name, address) values ($1, $2, $3) on conflict (team_id, address) do update set name = excluded.name',
      [person.team, body.name, body.address],
    );
    if (await readSiteAddress(deps.db, params.site)) await lookUpNow(deps, params.site);
    return view(params.site);
  });
  routes.on(addressApi.removeResolver, async ({ params, person }) => {
    await deps.db.run('delete from resolver where team_id = $1 and address = $2', [person.team, params.address]);
    return view(params.site);
  });
}
