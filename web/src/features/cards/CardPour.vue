<script setup lang="ts">
import { computed } from 'vue'
import type { Card } from '../../api/client'
import { useSession } from '../../session/session'

/** What is poured into the pail: by volume, by scale, and where the marks are. */
const props = defineProps<{ card: Card; alone?: boolean }>()
const session = useSession()
const single = computed(() => props.card.parts.length === 1)
const filled = computed(() =>
  props.card.parts.map((p, i) => ({
    part: p,
    from: i === 0 ? 0 : (props.card.parts[i - 1]?.fillTo ?? 0) / props.card.volume,
    to: p.fillTo / props.card.volume,
  })),
)
const PAIL = 200

/** What a scale shows, to the gram where that counts. */
function reading(kilograms: number): string {
  return session.format('scale', kilograms)
}
/** A height in the pail as a ruler shows it. */
function height(metres: number): string {
  return session.format('mark', metres)
}
</script>

<template>
  <div
    class="body"
    :class="{ coloured: card.cups?.length, alone, rough: card.parts.some((p) => p.densityAssumed) }"
  >
    <table>
      <thead>
        <tr>
          <th>{{ single ? 'Stir, then pour' : 'Pour' }}</th>
          <th>by volume</th>
          <th>or by scale</th>
          <th class="wide">pail mark</th>
          <th class="wide">
            {{ card.tare ? `scale with pail (${session.format('mass', card.tare)})` : 'scale shows' }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in card.parts" :key="p.name">
          <th scope="row">{{ p.name }}</th>
          <td class="big">
            {{ session.format('volume', p.volume) }}
            <span class="sub">mark {{ session.format('volume', p.fillTo) }}</span>
          </td>
          <td class="big mass">
            {{ p.densityAssumed ? '≈ ' : '' }}{{ session.format('mass', p.mass) }}
            <span class="sub">scale {{ reading(p.scaleTo) }}</span>
          </td>
          <td class="wide">
            {{ session.format('volume', p.fillTo)
            }}<span v-if="p.height" class="high">{{ height(p.height) }}</span>
          </td>
          <td class="wide">
            {{ p.densityAssumed ? '≈ ' : '' }}{{ reading(p.scaleTo) }}
            <span v-if="!single" class="high">± {{ session.format('mass', p.tolerance) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <svg class="pail" viewBox="0 0 150 236" role="img" aria-label="Fill marks on the pail">
      <path d="M12 10L24 226H126L138 10" fill="none" stroke="currentColor" stroke-width="3" />
      <g v-for="f in filled" :key="f.part.name">
        <rect
          :y="226 - f.to * PAIL"
          x="26"
          width="98"
          :height="(f.to - f.from) * PAIL"
          :fill="card.color"
          :fill-opacity="f.from === 0 ? 0.9 : 0.4"
        />
        <path :d="`M8 ${226 - f.to * PAIL}H142`" stroke="currentColor" stroke-width="2.5" />
        <text x="75" :y="Math.min(222, 226 - ((f.to + f.from) * PAIL) / 2 + 7)">{{ f.part.name }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.body {
  display: grid;
  grid-template-columns: 1fr 170px;
  gap: 22px;
  padding: 12px 22px;
  align-items: center;
}
table {
  border-collapse: collapse;
  width: 100%;
}
thead th {
  text-align: left;
  font-size: 1.1rem;
  font-weight: 560;
  border-bottom: 2px solid var(--ink);
}
tbody th {
  font-size: 4.4rem;
  font-weight: 780;
  text-align: left;
  line-height: 1.15;
  padding-right: 18px;
}
tbody td {
  font-size: 1.9rem;
  white-space: nowrap;
  padding-right: 18px;
  border-bottom: 1px solid var(--line);
}
td.big {
  font-size: 3.9rem;
  font-weight: 720;
}
td.mass {
  font-weight: 520;
  font-style: italic;
}
.sub {
  display: none;
}
.pail {
  width: 100%;
}
.pail text {
  font-size: 26px;
  font-weight: 760;
  text-anchor: middle;
  fill: currentColor;
}
.high {
  display: block;
  font-size: 1.3rem;
}
@media screen and (max-width: 900px) {
  .body {
    grid-template-columns: 1fr;
  }
  .pail,
  .wide {
    display: none;
  }
  .sub {
    display: block;
    font-size: 1.05rem;
    font-weight: 520;
    font-style: normal;
  }
  td.big {
    font-size: 1.7rem;
  }
  tbody td {
    font-size: 1.1rem;
    padding-right: 10px;
  }
  tbody th {
    font-size: 2.2rem;
  }
}
@media print {
  tbody th,
  td.big {
    font-size: 3.2rem;
  }
  .alone th[scope],
  .alone td.big {
    font-size: 4.15rem;
  }
  .alone td {
    padding-right: 10px;
  }
  /* What is not known by its density is written longer; the pail gives way to it. */
  .rough.body {
    grid-template-columns: minmax(0, 1fr);
  }
  .rough .pail {
    display: none;
  }
  .body {
    grid-template-columns: minmax(0, 1fr) 110px;
    padding-block: 4px;
  }
  .high {
    display: inline;
  }
  .coloured tbody th,
  .coloured td.big {
    font-size: 2.2rem;
  }
  .coloured.body {
    grid-template-columns: 1fr 84px;
  }
}
</style>
