/**
 * From an estimate to a decision: targets, faults that compete with calibration, the change that pays, and the answer
 * in words and JSON.
 *
 * <p>{@link nariz.advice.Analysis} is the one call from log to answer; start there. {@link nariz.advice.Strategy} holds
 * the targets, {@link nariz.advice.Ladder} the sizes a part comes in, {@link nariz.advice.Decision} weighs changes,
 * {@link nariz.advice.Hypotheses} weighs faults, {@link nariz.advice.Advice} is the answer. docs/model.md, section 5.
 */
package nariz.advice;
