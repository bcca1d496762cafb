<script setup lang="ts">
/** What came in, in figures; and the row that is selected, with its evidence. */
import type { Survey } from '@fastigium/contracts/api/imports';
import { addressOfFile } from '@fastigium/core/address';
import { computed } from 'vue';
import { count, figure, size } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import RemoveFile from '../shared/RemoveFile.vue';
import type { SurveyItem } from './surveyRows.ts';

const props = defineProps<{ survey: Survey; item: SurveyItem | undefined }>();
const session = useSession();
const page = computed(() => props.survey.pages.find(({ sourcePath }) => sourcePath === props.item?.source.path));
const asset = computed(() => props.survey.assets.find(({ path }) => path === props.item?.source.path));
const kinds = computed(() => {
  const byKind = new Map<string, { files: number; bytes: number }>();
  for (const { type, sizeBytes } of props.survey.assets) {
    const kind = kindOf(type);
    const sum = byKind.get(kind) ?? { files: 0, bytes: 0 };
    byKind.set(kind, { files: sum.files + 1, bytes: sum.bytes + sizeBytes });
  }
  return [...byKind].sort(([, a], [, b]) => b.bytes - a.bytes);
});

function kindOf(type: string): string {
  if (type.startsWith('image/')) return 'Pictures';
  if (type.startsWith('text/css')) return 'Styles';
  if (type.includes('javascript')) return 'Scripts';
  if (type.startsWith('font/')) return 'Fonts';
  if (/pdf|word|officedocument|opendocument|msexcel|powerpoint/.test(type)) return 'Documents';
  return 'Other files';
}
</script>

<template>
  <h1 class="title-face">What came in</h1>
  <p class="quiet">
    {{
      survey.crawledFrom
        ? `crawled from ${survey.crawledFrom}; links lead to the files here`
        : `from “${survey.fileName}”, kept byte for byte`
    }}
  </p>
  <dl class="facts">
    <dt>Pages</dt>
    <dd>{{ figure(survey.pages.length) }}</dd>
    <template v-for="[kind, sum] in kinds" :key="kind"
      ><dt>{{ kind }}</dt>
      <dd>
        {{ figure(sum.files) }}<span class="quiet bytes">{{ size(sum.bytes) }}</span>
      </dd></template
    >
    <dt class="strong">All files</dt>
    <dd class="strong">
      {{ figure(survey.pages.length + survey.assets.length)
      }}<span class="quiet bytes">{{ size(survey.totalBytes) }}</span>
    </dd>
    <dt>Links inside the site</dt>
    <dd>{{ figure(survey.links.inside) }}</dd>
    <dt>Links to other sites</dt>
    <dd>{{ figure(survey.links.outside) }}</dd>
  </dl>
  <template v-if="item">
    <hr class="rule" />
    <h2 class="heading">
      <span class="address">{{ item.source.path.replace(/^\/?/, '/') }}</span>
    </h2>
    <p v-if="item.source.note">{{ item.source.note }}</p>
    <template v-else-if="page">
      <p>{{ page.title ?? 'This page has no title. Write one under Pages.' }}</p>
      <p class="quiet">
        {{ size(page.sizeBytes) }}, {{ count(page.linksOut, 'link')
        }}{{ page.language ? `, language ${page.language}` : ', no language declared' }}
      </p>
      <RouterLink class="text-link" :to="{ name: 'pages', params: { page: page.id } }"
        >Work on it under Pages</RouterLink
      >
    </template>
    <template v-else-if="asset">
      <p class="quiet">
        {{ asset.type || 'no known type' }}, {{ size(asset.sizeBytes) }},
        {{ asset.uses === 0 ? 'no page or style leads to it' : `used by ${count(asset.uses, 'file')}` }}
      </p>
      <RemoveFile v-if="session.mayEdit" :key="asset.path" :address="addressOfFile(asset.path)" />
    </template>
  </template>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
.facts {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 16px;
  margin: 12px 0;
  padding: 10px 12px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
}
dd {
  margin: 0;
  text-align: right;
  font-variant-numeric: tabular-nums;
  font-weight: 600;
}
.bytes {
  display: inline-block;
  min-width: 64px;
  font-weight: 400;
}
</style>
