declare module 'jstat' {
  interface Continuous {
    cdf(x: number, ...parameters: number[]): number;
    inv(probability: number, ...parameters: number[]): number;
  }
  interface Distributions {
    readonly normal: Continuous;
    readonly beta: Continuous;
    readonly chisquare: Continuous;
    readonly studentt: Continuous;
    readonly centralF: Continuous;
    readonly binomial: { pdf(hits: number, trials: number, chance: number): number };
    readonly negbin: { pdf(failures: number, successes: number, chance: number): number };
  }
  const jstat: Distributions;
  export default jstat;
}
