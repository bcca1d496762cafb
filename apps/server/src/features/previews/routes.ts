import { draftApi } from '@fastigium/contracts/api/draft';
import type { Routes } from '../../http/route.ts';
import type { PreviewLinks } from './links.ts';

export function addPreviewsRoutes(routes: Routes, links: PreviewLinks): void {
  routes.on(draftApi.previewLink, async ({ params }) => {
    const { origins, until } = links.create(params.site);
    return { origins, until };
  });
}
