/**
 * JMH benchmarks of what has to be quick: the whole analysis over log length, and trying parts on a drive. {@code mvn
 * -Pbench -pl bench -am compile exec:exec} runs them; figures are in docs/performance.md.
 */
package nariz.bench;
