/** Keys of a target that say what exactly is measured. */
export const measureKeys = ['stat', 'screen', 'level', 'rule', 'counter', 'bound', 'over'] as const;
type MeasureKey = (typeof measureKeys)[number];

/** How the values of a measure are written. */
export type Unit = 'points' | 'seconds' | 'share' | 'count';

interface MeasureForm {
  /** In words. */
  readonly is: string;
  /** Keys of which exactly one must be given. */
  readonly needs: readonly MeasureKey[];
  /** Keys that may be given. */
  readonly takes: readonly MeasureKey[];
  readonly unit: Unit;
}

const spread = (is: string, unit: Unit): MeasureForm => ({
  is,
  needs: [],
  takes: ['stat'],
  unit,
});

/** What can be measured of simulated sessions. */
const measures = {
  score: spread('the score at the end of a run', 'points'),
  length: spread('seconds that a run lasts', 'seconds'),
  session: spread('seconds that a session lasts', 'seconds'),
  lives: spread('lives left at the end of a run', 'count'),
  firstPoint: spread('seconds from the start of a run to its first point', 'seconds'),
  firstLoss: spread('seconds from the start of a run to the first life lost', 'seconds'),
  drySpell: spread('the longest time in a run without a point, in seconds', 'seconds'),
  streak: spread('the most successes in a row in a run', 'count'),
  pace: { is: 'points for each ten seconds of play', needs: [], takes: [], unit: 'points' },
  reach: {
    is: 'the share of runs that reach a screen or a level',
    needs: ['screen', 'level'],
    takes: [],
    unit: 'share',
  },
  ending: { is: 'the share of runs that end on a screen', needs: ['screen'], takes: [], unit: 'share' },
  abandoned: {
    is: 'the share of runs that the player leaves before an ending',
    needs: [],
    takes: [],
    unit: 'share',
  },
  fail: {
    is: 'the share of the runs reaching a level that end in it without a win',
    needs: ['level'],
    takes: [],
    unit: 'share',
  },
  share: { is: 'the share of all points that a rule makes', needs: ['rule'], takes: [], unit: 'share' },
  atBound: {
    is: 'the share of play in which a counter sits at its min or max',
    needs: ['counter'],
    takes: ['bound'],
    unit: 'share',
  },
  wins: {
    is: 'the chance that a run of this player scores higher than one of another, half of the ties with it',
    needs: ['over'],
    takes: [],
    unit: 'share',
  },
  skill: {
    is: 'the share of the variance of scores that lies between the players, each as weighty',
    needs: [],
    takes: [],
    unit: 'share',
  },
} as const satisfies { readonly [measure: string]: MeasureForm };

export type Measure = keyof typeof measures;

export const measureNames = Object.keys(measures) as [Measure, ...Measure[]];

export const measureForm = (measure: Measure): MeasureForm => measures[measure];
