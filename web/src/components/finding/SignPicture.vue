<script setup lang="ts">
// Small drawings of tell-tale signs: one leaf or stem, one sign on it.
defineProps<{ drawing: string }>();

/** Signs of the whole plant, drawn in its pot. */
const POTS = ["wilts_dry", "wilts_wet", "oldest_yellow", "yellow_all"];

const dots = Array.from({ length: 34 }, (_, k) => ({
  x: 22 + ((k * 37) % 56),
  y: 20 + ((k * 53) % 58),
}));
const holes = [
  [36, 36],
  [48, 28],
  [58, 44],
  [44, 52],
  [62, 58],
  [34, 58],
  [50, 68],
  [54, 36],
] as const;
</script>

<template>
  <svg viewBox="0 0 100 100" class="sign" aria-hidden="true">
    <template v-if="POTS.includes(drawing)">
      <path class="pot" d="M30 66H70L64 96H36Z" />
      <path v-if="drawing.startsWith('wilts')" class="thinstem" d="M50 66C50 40 62 30 74 40M50 66C48 44 36 34 24 46" />
      <path v-else class="thinstem" d="M50 66V14" />
      <template v-if="drawing.startsWith('wilts')"><path class="leaf" d="M74 40Q86 52 78 66Q68 56 74 40ZM24 46Q12 58 20 72Q30 62 24 46Z" /></template>
      <template v-else>
        <path class="leaf" :class="{ ill: true }" d="M50 58Q66 48 84 56Q68 68 50 58ZM50 58Q34 48 16 56Q32 68 50 58Z" />
        <path
          class="leaf"
          :class="{ ill: drawing === 'yellow_all' }"
          d="M50 38Q62 26 78 30Q66 44 50 38ZM50 38Q38 26 22 30Q34 44 50 38ZM50 18Q58 6 68 8Q62 20 50 18Z" />
      </template>
      <path v-if="drawing === 'wilts_dry'" class="line" d="M34 70l8 6l-4 6M54 68l6 8l-6 6" />
      <path v-if="drawing === 'wilts_wet'" class="water" d="M33 80H67L64 96H36Z" />
    </template>
    <template v-else-if="drawing === 'white_on_roots'">
      <path class="soil" d="M24 8H76L68 92H32Z" />
      <path class="line" d="M40 10C36 40 46 60 40 90M52 10C58 34 48 58 54 90M64 10C60 40 68 56 62 88M34 30L48 44M66 36L54 56" />
      <path
        v-for="q in [
          [36, 34],
          [54, 52],
          [44, 74],
          [60, 24],
        ]"
        :key="q.join()"
        class="pale edge"
        :d="`M${q[0]} ${q[1]}q3 -8 9 -3q7 0 4 7q-3 7 -10 3q-6 -2 -3 -7Z`" />
    </template>
    <template v-else-if="['wool', 'bumps', 'clusters', 'ants', 'flyup', 'jumping'].includes(drawing)">
      <path class="stem" d="M50 96C48 70 52 40 50 8" />
      <path class="leaf" d="M50 58C66 44 84 46 92 38C88 58 70 66 50 62Z" />
      <path class="leaf" d="M50 40C34 28 18 30 8 22C12 42 30 48 50 44Z" />
    </template>
    <template v-else-if="['soilflies', 'maggots', 'slime', 'wilted_seedlings'].includes(drawing)">
      <path class="soil" d="M4 62C30 56 70 58 96 62V96H4Z" />
    </template>
    <template v-else>
      <path
        class="leaf"
        :class="{ ill: drawing === 'yellow_between', bronze: drawing === 'bronzed', eaten: drawing === 'skeleton' }"
        d="M50 6C84 22 90 64 50 94C10 64 16 22 50 6Z" />
      <path
        class="vein"
        :class="{ green: drawing === 'yellow_between', bones: drawing === 'skeleton' }"
        d="M50 10V90M50 40L72 28M50 40L28 28M50 62L74 50M50 62L26 50" />
    </template>

    <g v-if="drawing === 'stippling'"><circle v-for="(d, k) in dots" :key="k" class="pale" :cx="d.x" :cy="d.y" r="1.7" /></g>
    <path
      v-else-if="drawing === 'webbing'"
      class="thin"
      d="M28 28L50 40L72 28M28 28L50 24L72 28M33 31L50 30L67 31M39 34L50 35L61 34M26 50L50 62L74 50M32 54L50 53L68 54M39 57L50 58L61 57" />
    <g v-else-if="drawing === 'honeydew'"><circle v-for="h in holes" :key="h.join()" class="shine" :cx="h[0]" :cy="h[1]" r="5" /></g>
    <g v-else-if="drawing === 'ants'">
      <g v-for="y in [24, 50, 76]" :key="y" :transform="`translate(50 ${y})`" class="dark">
        <circle r="3" cy="-5" />
        <circle r="2.4" />
        <circle r="3.6" cy="6" />
        <path class="line" d="M-8 -4L8 2M8 -4L-8 2" />
      </g>
    </g>
    <path v-else-if="drawing === 'sooty'" class="dark soft" d="M30 30C44 18 66 28 64 44C80 58 54 80 40 68C24 62 20 42 30 30Z" />
    <g v-else-if="drawing === 'wool'">
      <path
        v-for="p in [
          [50, 42],
          [50, 60],
        ]"
        :key="p[1]"
        class="pale edge"
        :d="`M${p[0]! - 9} ${p[1]!}q4 -9 9 -4q7 -5 9 3q6 5 -2 8q-4 7 -10 3q-9 2 -6 -10Z`" />
    </g>
    <g v-else-if="drawing === 'bumps'"><ellipse v-for="y in [18, 30, 50, 70, 82]" :key="y" class="brown" :cx="y % 4 ? 47 : 53" :cy="y" rx="5" ry="3.6" /></g>
    <g v-else-if="drawing === 'clusters'">
      <ellipse v-for="(d, k) in dots.slice(0, 14)" :key="k" class="dark" :cx="44 + (d.x % 14)" :cy="8 + (d.y % 26)" rx="3" ry="4" />
    </g>
    <path v-else-if="drawing === 'curled'" class="line" d="M30 24C58 18 74 44 56 58C42 68 30 50 42 44C50 40 54 50 48 52" />
    <g v-else-if="drawing === 'flyup'">
      <path
        v-for="p in [
          [22, 14],
          [70, 12],
          [80, 66],
          [26, 64],
        ]"
        :key="p.join()"
        class="pale edge"
        :d="`M${p[0]} ${p[1]}l8 10h-16Z`" />
    </g>
    <g v-else-if="drawing === 'streaks'">
      <path class="silver" d="M30 32l16 6M34 50l20 8M56 34l14 6M44 70l14 4" />
      <circle v-for="h in holes.slice(0, 6)" :key="h.join()" class="dark" :cx="h[0] + 4" :cy="h[1] + 4" r="1.3" />
    </g>
    <g v-else-if="drawing === 'soilflies'">
      <g
        v-for="p in [
          [28, 50],
          [52, 40],
          [74, 52],
        ]"
        :key="p.join()"
        :transform="`translate(${p[0]} ${p[1]})`">
        <ellipse class="dark" rx="2.4" ry="6" />
        <path class="line" d="M0 0L10 6M0 0L-10 6M-2 5L-6 12M2 5L6 12" />
      </g>
    </g>
    <g v-else-if="drawing === 'maggots'">
      <g
        v-for="p in [
          [22, 72],
          [48, 80],
          [66, 70],
        ]"
        :key="p.join()"
        :transform="`translate(${p[0]} ${p[1]})`">
        <path class="worm" d="M0 0q8 -6 16 0" />
        <circle class="dark" r="2.4" />
      </g>
    </g>
    <g v-else-if="drawing === 'shotholes'"><circle v-for="h in holes" :key="h.join()" class="hole" :cx="h[0]" :cy="h[1]" r="2.6" /></g>
    <path
      v-else-if="drawing === 'holes'"
      class="hole"
      d="M76 40q-18 4 -10 14q-8 8 6 12l14 -14ZM38 30q10 -4 10 8q-2 10 -12 4q-6 -6 2 -12ZM30 62q8 0 8 8l-12 -6Z" />
    <g v-else-if="drawing === 'eggs'">
      <ellipse v-for="k in 15" :key="k" class="pale edge" :cx="38 + ((k - 1) % 5) * 6" :cy="46 + Math.floor((k - 1) / 5) * 6" rx="2.7" ry="2.7" />
    </g>
    <path v-else-if="drawing === 'slime'" class="silver wide" d="M8 86C30 60 44 92 58 72S84 66 92 70" />
    <g v-else-if="drawing === 'powder'">
      <path class="pale soft" d="M34 24q14 -8 18 6q12 0 8 14q-8 10 -20 4q-16 -8 -6 -24ZM40 60q10 -8 18 2q8 10 -4 14q-16 2 -14 -16Z" />
    </g>
    <g v-else-if="drawing === 'rings'">
      <g
        v-for="p in [
          [40, 36],
          [60, 56],
          [38, 66],
        ]"
        :key="p.join()">
        <circle class="yellow" :cx="p[0]" :cy="p[1]" r="11" />
        <circle class="brown" :cx="p[0]" :cy="p[1]" r="8" />
        <circle class="ring" :cx="p[0]" :cy="p[1]" r="5" />
        <circle class="ring" :cx="p[0]" :cy="p[1]" r="2" />
      </g>
    </g>
    <g v-else-if="drawing === 'jumping'">
      <path class="hop" d="M20 74Q34 44 48 66M62 52Q74 22 88 44" />
      <ellipse
        v-for="q in [
          [20, 76],
          [48, 68],
          [62, 54],
          [88, 46],
        ]"
        :key="q.join()"
        class="dark"
        :cx="q[0]"
        :cy="q[1]"
        rx="5"
        ry="3.6" />
    </g>
    <g v-else-if="drawing === 'droppings'"><rect v-for="(d, k) in dots.slice(0, 16)" :key="k" class="dark" :x="d.x" :y="d.y" width="4" height="3" rx="1" /></g>
    <path v-else-if="drawing === 'caterpillar'" class="crawler" d="M26 58q6 -18 12 0t12 0t12 0t12 -4" />
    <path v-else-if="drawing === 'shield'" class="brown" d="M50 28L66 40L62 62L50 76L38 62L34 40ZM50 40V74M36 42L50 58L64 42" />
    <path
      v-else-if="drawing === 'yellow_patches'"
      class="yellow"
      d="M32 30q10 -8 14 4q2 10 -8 10q-12 -2 -6 -14ZM58 46q12 -4 12 6q-2 10 -12 6q-8 -6 0 -12ZM36 60q8 -4 12 4q0 8 -8 8q-10 -2 -4 -12Z" />
    <g v-else-if="drawing === 'wilted_seedlings'">
      <path class="thinstem" d="M26 62C26 46 30 40 42 52M62 62C62 44 68 40 80 56" />
      <path class="leaf" d="M42 52q8 4 4 14q-8 -4 -4 -14ZM80 56q8 4 2 12q-6 -4 -2 -12Z" />
      <path class="water" d="M4 84C30 78 70 80 96 84V96H4Z" />
    </g>
    <path v-else-if="drawing === 'dry_edges'" class="rim" d="M24 66C32 80 42 88 50 93C62 86 72 76 78 62" />
    <path v-else-if="drawing === 'sun_patches'" class="pale soft" d="M56 22q14 6 16 22q0 14 -8 22q-8 -6 -8 -18q-6 -14 0 -26Z" />
    <g v-else-if="drawing === 'after_spray'">
      <g
        v-for="q in [
          [34, 32],
          [60, 40],
          [42, 62],
          [64, 66],
        ]"
        :key="q.join()">
        <circle class="brown" :cx="q[0]" :cy="q[1]! + 8" r="5" />
        <path class="water edge" :d="`M${q[0]} ${q[1]! - 8}q-7 9 0 13q7 -4 0 -13Z`" />
      </g>
    </g>
    <g v-else-if="drawing === 'pale_rings'">
      <circle
        v-for="q in [
          [36, 34],
          [62, 44],
          [44, 64],
        ]"
        :key="q.join()"
        class="halo"
        :cx="q[0]"
        :cy="q[1]"
        r="8" />
    </g>
    <path
      v-else-if="drawing === 'mosaic'"
      class="yellow"
      d="M30 34l16 -10v14ZM54 22l16 12l-16 6ZM24 52l20 -8l-4 14ZM58 48l20 -4l-10 16ZM32 66l14 -6l-2 16ZM56 64l14 2l-12 12Z" />
    <path v-else-if="drawing === 'cold_tips'" class="dark" d="M50 94C36 84 28 74 25 66C40 74 60 74 75 66C72 74 64 84 50 94Z" />
    <g v-else-if="drawing === 'tip_drops'">
      <path
        v-for="q in [
          [50, 84],
          [22, 58],
          [78, 58],
        ]"
        :key="q.join()"
        class="water edge"
        :d="`M${q[0]} ${q[1]}q-8 11 0 15q8 -4 0 -15Z`" />
    </g>
    <g v-else-if="drawing === 'pustules'"><circle v-for="(d, k) in dots.slice(0, 18)" :key="k" class="orange" :cx="d.x" :cy="d.y" r="2.8" /></g>
  </svg>
</template>

<style scoped>
.sign {
  width: 64px;
  height: 64px;
  flex: none;
}

.leaf {
  fill: var(--leaf);
  stroke: var(--outline);
  stroke-width: 1.6;
}

.vein {
  fill: none;
  stroke: var(--leaf-vein);
  stroke-width: 1.6;
}

.leaf.ill {
  fill: var(--leaf-ill);
}

.leaf.bronze {
  fill: var(--tag-2);
}

.leaf.eaten {
  fill: none;
  stroke-dasharray: 4 4;
}

.vein.green,
.vein.bones {
  stroke: var(--leaf-deep);
  stroke-width: 4;
}

.pot {
  fill: var(--tag-2);
  stroke: var(--outline);
  stroke-width: 1.2;
}

.thinstem {
  fill: none;
  stroke: var(--leaf-deep);
  stroke-width: 3;
}

.water {
  fill: var(--drop);
}

.hop {
  fill: none;
  stroke: var(--line);
  stroke-width: 1.6;
  stroke-dasharray: 3 4;
}

.crawler {
  fill: none;
  stroke: var(--leaf-vein);
  stroke-width: 9;
  stroke-linecap: round;
}

.rim {
  fill: none;
  stroke: var(--tag-2);
  stroke-width: 8;
  stroke-linecap: round;
}

.halo {
  fill: none;
  stroke: var(--dust);
  stroke-width: 3.5;
}

.ring {
  fill: none;
  stroke: var(--dust);
  stroke-width: 1.5;
}

.stem {
  fill: none;
  stroke: var(--leaf-deep);
  stroke-width: 6;
}

.soil {
  fill: var(--soil);
  stroke: var(--outline);
  stroke-width: 1.2;
}

.pale {
  fill: var(--dust);
}

.hole {
  fill: var(--soil);
  stroke: var(--outline);
  stroke-width: 1;
}

.edge {
  stroke: var(--outline);
  stroke-width: 1.2;
}

.shine {
  fill: var(--trap);
  opacity: 0.85;
}

.dark {
  fill: var(--outline);
}

.soft {
  opacity: 0.85;
}

.brown,
.orange {
  fill: var(--tag-2);
  stroke: var(--outline);
  stroke-width: 0.8;
}

.yellow {
  fill: var(--leaf-ill);
}

.thin,
.line,
.silver,
.worm {
  fill: none;
  stroke: var(--outline);
  stroke-width: 1.4;
  stroke-linecap: round;
}

.thin {
  stroke: var(--dust);
}

.silver {
  stroke: var(--dust);
  stroke-width: 3.5;
}

.wide {
  stroke-width: 5;
}

.worm {
  stroke: var(--dust);
  stroke-width: 4;
}
</style>
