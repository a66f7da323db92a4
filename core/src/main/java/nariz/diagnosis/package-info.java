/**
 * From an estimate to a decision: targets, faults that compete with calibration, the change that pays, and the answer
 * in words and JSON.
 *
 * <p>{@link nariz.diagnosis.Analysis} is the one call from log to answer; start there. {@link
 * nariz.diagnosis.Strategy} holds the targets, {@link nariz.diagnosis.Ladder} the sizes a part comes in, {@link
 * nariz.diagnosis.Decision} weighs changes, {@link nariz.diagnosis.CausePosterior} weighs causes, {@link
 * nariz.diagnosis.Advice} is the answer. docs/model.md, section 5.
 */
@NullMarked
package nariz.diagnosis;

import org.jspecify.annotations.NullMarked;
