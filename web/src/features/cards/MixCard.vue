<script setup lang="ts">
import { computed } from 'vue'
import type { Card } from '../../api/client'
import { clockTime, minuteTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import CardClock from './CardClock.vue'
import CardCups from './CardCups.vue'
import CardPour from './CardPour.vue'
import PailRows from './PailRows.vue'
import { ranges } from './sheets'

const props = defineProps<{
  card: Card
  /** All batches that are mixed like this one, itself among them, where one card stands for them. */
  alike?: Card[]
  surface: string
  coat: number
  coats: number
  /** Under what name the running clock of this batch is kept; no clock without one. */
  clock?: string
  /** Whose clock the planned times are read on. */
  zone?: string
}>()
const session = useSession()
const equal = computed(() => ((props.alike?.length ?? 0) > 1 ? (props.alike ?? []) : undefined))
/** What every section needs that these batches are for. */
const floor = computed(() =>
  props.card.floor.filter((s) => (equal.value ?? []).every((c) => c.floor.some((f) => f.text === s.text))),
)
/** Its figures are read from two metres; cups by colour leave no room for that. */
const alone = computed(() => !equal.value && !props.card.cups?.length)
const single = computed(() => props.card.parts.length === 1)
const ratio = computed(() => `${props.card.ratioParts.join(' : ')} by ${props.card.ratio}`)
</script>

<template>
  <article class="card" :class="{ alone }" data-test="mix-card">
    <header>
      <svg class="band" preserveAspectRatio="none" viewBox="0 0 10 10" aria-hidden="true">
        <rect width="10" height="10" :fill="card.color" />
      </svg>
      <p class="which">
        {{ equal ? 'Batches' : 'Batch' }}
        <b>{{ equal ? ranges(equal.map((c) => c.batch)) : card.batch }}</b> of {{ card.of }}
      </p>
      <p class="what">
        <strong>{{ card.product }}</strong>
        <span>coat {{ coat }} of {{ coats }}, {{ surface }}</span>
      </p>
      <p v-if="card.useBy && !equal" class="use">
        <span>use by, as planned{{ card.beyond ? ', beyond the sheet' : '' }}</span>
        <b data-test="use-by">{{ minuteTime(card.useBy, zone) }}</b>
      </p>
      <p class="total">
        <b>{{ session.format('volume', card.volume) }}</b>
        <span>{{ session.format('mass', card.mass) }} · {{ card.share }}</span>
      </p>
      <slot />
    </header>
    <CardPour :card="card" :alone="alone" />
    <ul v-if="card.additions?.length" class="adds">
      <li v-for="a in card.additions" :key="a.name + a.how">
        <b>{{ session.amount(a) }}</b>
        {{ a.name }}, {{ a.how }}
      </li>
    </ul>
    <CardCups v-if="card.cups?.length" :card="card" />
    <div class="work">
      <ol class="steps">
        <li v-for="s in card.steps" :key="s.text">
          {{ s.text }} <b v-if="s.lasts">{{ session.format('span', s.lasts) }}.</b>
        </li>
      </ol>
      <div v-if="card.strokes" class="strokes" data-test="strokes">
        <p>
          <b>{{ card.strokes.a }}</b> strokes of A, <b>{{ card.strokes.b }}</b> of B
          <span v-if="card.strokes.priming">(after {{ card.strokes.priming }} each to prime)</span>
        </p>
        <p class="small">
          {{ card.strokes.text }} They give {{ session.format('volume', card.strokes.volume) }}, off by
          {{ session.format('fraction', Math.abs(card.strokes.off)) }}.
        </p>
      </div>
    </div>
    <div v-if="floor.length" class="floor" data-test="on-the-floor">
      <h2>{{ equal ? 'Then its section' : `Then section ${card.section}` }}</h2>
      <ol class="steps">
        <li v-for="s in floor" :key="s.text">{{ s.text }}</li>
      </ol>
    </div>
    <PailRows v-if="equal" :cards="equal" :zone="zone" />
    <p v-if="card.warning" class="mind" role="alert">{{ card.warning }}</p>
    <p v-if="card.parts.some((p) => p.densityAssumed)" class="mind">
      ≈ The sheet gives no density: measure by volume, or weigh a known volume first.
    </p>
    <dl class="clock">
      <div v-if="!single">
        <dt>Ratio</dt>
        <dd class="ratio">{{ ratio }}</dd>
      </div>
      <div v-if="card.mixing">
        <dt>{{ single ? 'Stir' : 'Mix' }}</dt>
        <dd>{{ session.format('span', card.mixing) }}</dd>
      </div>
      <div v-if="card.induction">
        <dt>Let stand</dt>
        <dd>{{ session.format('span', card.induction) }}</dd>
      </div>
      <div v-if="card.potLife">
        <dt>Pot life from mixing{{ card.beyond ? ', beyond the sheet' : '' }}</dt>
        <dd>{{ session.format('span', card.potLife) }}</dd>
      </div>
      <div v-if="card.smokes">
        <dt>Left in the pail, it smokes</dt>
        <dd>{{ session.format('span', card.smokes) }} later</dd>
      </div>
      <div v-if="!equal">
        <dt>Section</dt>
        <dd>{{ card.section }}: {{ session.format('area', card.area) }}</dd>
      </div>
      <div>
        <dt>{{ card.turning ? 'Resin alone, as a film' : 'Wet film' }}</dt>
        <dd>{{ session.format('film', card.wet) }}</dd>
      </div>
      <div v-if="!single && !equal">
        <dt>
          {{
            card.meets ? `Mixing start, planned ${clockTime(card.meets, zone)}; started` : 'Mixing started at'
          }}
        </dt>
        <dd class="blank">&nbsp;</dd>
      </div>
    </dl>
    <CardClock v-if="!single && clock && !equal" :card="card" :memory="clock" :zone="zone" />
    <p v-if="card.cautions?.length" class="cautions">
      {{ card.cautions.join(' ') }} The product's data sheet and safety data sheet come first.
    </p>
  </article>
</template>

<style scoped>
.card {
  background: var(--paper);
  border: 3px solid var(--ink);
  padding: 0 0 14px;
  break-inside: avoid;
  break-after: page;
  margin-bottom: 26px;
}
.card:last-child {
  break-after: auto;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
  align-items: center;
  padding: 0 22px 10px;
  border-bottom: 3px solid var(--ink);
}
.band {
  flex: none;
  display: block;
  width: calc(100% + 44px);
  margin: 0 -22px;
  height: 22px;
  border-bottom: 2px solid var(--ink);
  print-color-adjust: exact;
}
p {
  margin: 0;
}
.which {
  font-size: 1.9rem;
}
.which b {
  font-size: 4.6rem;
  line-height: 1;
}
.what {
  flex: 1;
}
.what strong {
  display: block;
  font-size: 2.3rem;
  line-height: 1.05;
}
.what span,
.total span,
.use span {
  font-size: 1.3rem;
}
.use b {
  display: block;
  font-size: 3.4rem;
  line-height: 1.05;
}
.total {
  text-align: right;
}
.total b {
  display: block;
  font-size: 3.4rem;
  line-height: 1.05;
  white-space: nowrap;
}
.clock {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 34px;
  padding: 10px 22px 0;
  border-top: 3px solid var(--ink);
}
dt {
  font-size: 1.05rem;
}
dd {
  font-size: 2.3rem;
  font-weight: 720;
  line-height: 1.1;
  white-space: nowrap;
}
dd.blank {
  border-bottom: 2px solid var(--ink);
  min-width: 150px;
}
.work {
  display: flex;
  gap: 30px;
  padding: 8px 22px 10px;
  align-items: start;
}
.steps {
  flex: 2;
  columns: 2;
  column-gap: 34px;
  margin: 0;
  padding-left: 1.3em;
  font-size: 1.12rem;
  line-height: 1.35;
}
.steps li {
  break-inside: avoid;
}
.floor {
  padding: 4px 22px 10px;
}
.floor h2 {
  font-size: 1.12rem;
  margin: 0 0 4px;
}
.strokes {
  flex: 1;
  border-left: 3px solid var(--ink);
  padding-left: 18px;
  font-size: 1.5rem;
}
.adds {
  list-style: none;
  padding: 4px 22px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 30px;
  font-size: 1.5rem;
}
.cautions,
.mind {
  padding: 10px 22px 0;
  font-size: 1.05rem;
}
.mind {
  font-weight: 680;
}
@media screen and (max-width: 900px) {
  header {
    grid-template-columns: 1fr;
  }
  .total {
    text-align: left;
  }
  .work {
    display: block;
  }
  .steps {
    columns: 1;
  }
  dd {
    font-size: 1.5rem;
  }
}
@media screen and (min-width: 901px) {
  .card {
    zoom: 0.78;
  }
}
@media print {
  .which b,
  .total b,
  .use b {
    font-size: 3rem;
  }
  dd {
    font-size: 1.7rem;
  }
  /* Batch, parts and use-by are read from two metres. */
  .alone .which b,
  .alone .total b,
  .alone .use b {
    font-size: 4.15rem;
  }
  /* Read at arm's length: 12 points once the sheet is drawn smaller. */
  .steps,
  .strokes {
    font-size: 1.21rem;
    line-height: 1.2;
  }
  .cautions,
  .mind {
    font-size: 1.06rem;
    line-height: 1.2;
  }
  .floor,
  .work {
    padding-block: 2px 4px;
  }
  .band {
    height: 14px;
  }
  header {
    padding-bottom: 4px;
  }
  .clock {
    padding-top: 4px;
    gap: 2px 34px;
  }
  .cautions,
  .mind {
    padding-top: 4px;
  }
  .floor h2 {
    font-size: 1.21rem;
    margin: 0;
  }
  /* One landscape sheet for each card, whatever stands on it. */
  .card {
    zoom: 0.74;
    border-color: #000;
    margin: 0;
    padding-bottom: 4px;
  }
}
</style>
