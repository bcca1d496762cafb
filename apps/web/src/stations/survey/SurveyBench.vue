<script setup lang="ts">
/** What came in, in figures; and the row that is selected, with its evidence. */
import type { Survey } from '@fastigium/contracts/api/imports';
import { findAddressOfFile } from '@fastigium/core/address';
import { computed } from 'vue';
import { formatFigure, formatSize } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import RemoveFile from '../shared/RemoveFile.vue';
import type { SurveyItem } from './surveyRows.ts';
import { say } from './words.ts';

const props = defineProps<{ survey: Survey; item: SurveyItem | undefined }>();
const session = useSession();
const page = computed(() => props.survey.pages.find(({ sourcePath }) => sourcePath === props.item?.source.path));
const asset = computed(() => props.survey.assets.find(({ path }) => path === props.item?.source.path));
const kinds = computed(() => {
  const byKind = new Map<string, { files: number; bytes: number }>();
  for (const { type, sizeBytes } of props.survey.assets) {
    const kind = judgeKind(type);
    const sum = byKind.get(kind) ?? { files: 0, bytes: 0 };
    byKind.set(kind, { files: sum.files + 1, bytes: sum.bytes + sizeBytes });
  }
  return [...byKind].sort(([, a], [, b]) => b.bytes - a.bytes);
});

function judgeKind(type: string): string {
  if (type.startsWith('image/')) return say('surveyBench.pictures');
  if (type.startsWith('text/css')) return say('surveyBench.styles');
  if (type.includes('javascript')) return say('surveyBench.scripts');
  if (type.startsWith('font/')) return say('surveyBench.fonts');
  if (/pdf|word|officedocument|opendocument|msexcel|powerpoint/.test(type)) return say('surveyBench.documents');
  return say('surveyBench.otherFiles');
}
</script>

<template>
  <h1 class="title-face">{{ say('surveyBench.whatCameIn') }}</h1>
  <p class="quiet">
    {{
      survey.crawledFrom
        ? say('surveyBench.crawledFromLinksLeadTo', { crawledFrom: survey.crawledFrom })
        : say('surveyBench.fromKeptByteForByte', { fileName: survey.fileName })
    }}
  </p>
  <dl class="facts">
    <dt>{{ say('common.pages') }}</dt>
    <dd>{{ formatFigure(survey.pages.length) }}</dd>
    <template v-for="[kind, sum] in kinds" :key="kind"
      ><dt>{{ kind }}</dt>
      <dd>
        {{ formatFigure(sum.files) }}<span class="quiet bytes">{{ formatSize(sum.bytes) }}</span>
      </dd></template
    >
    <dt class="strong">{{ say('surveyBench.allFiles') }}</dt>
    <dd class="strong">
      {{ formatFigure(survey.pages.length + survey.assets.length)
      }}<span class="quiet bytes">{{ formatSize(survey.totalBytes) }}</span>
    </dd>
    <dt>{{ say('surveyBench.linksInsideTheSite') }}</dt>
    <dd>{{ formatFigure(survey.links.inside) }}</dd>
    <dt>{{ say('surveyBench.linksToOtherSites') }}</dt>
    <dd>{{ formatFigure(survey.links.outside) }}</dd>
  </dl>
  <template v-if="item">
    <hr class="rule" />
    <h2 class="heading">
      <span class="address">{{ item.source.path.replace(/^\/?/, '/') }}</span>
    </h2>
    <p v-if="item.source.note">{{ item.source.note }}</p>
    <template v-else-if="page">
      <p>{{ page.title ?? say('surveyBench.thisPageHasNoTitle') }}</p>
      <p class="quiet">
        {{
          say('surveyBench.linksNoLanguageDeclared', {
            sizeBytes: formatSize(page.sizeBytes),
            linksOut: page.linksOut,
            hasLanguage: Boolean(page.language),
            language: page.language,
          })
        }}
      </p>
      <RouterLink class="text-link" :to="{ name: 'pages', params: { page: page.id } }">{{
        say('surveyBench.workOnItUnderPages')
      }}</RouterLink>
    </template>
    <template v-else-if="asset">
      <p class="quiet">
        {{
          say('surveyBench.usedByFiles', {
            type: asset.type || say('surveyBench.noKnownType'),
            sizeBytes: formatSize(asset.sizeBytes),
            noUses: asset.uses === 0,
            uses: asset.uses,
          })
        }}
      </p>
      <RemoveFile v-if="session.mayEdit" :key="asset.path" :address="findAddressOfFile(asset.path)" />
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
