/**
 * The examination: engines whose answers are known are put through the whole way from log to advice, and what came out
 * is printed, misses included.
 *
 * <p>{@link nariz.exam.Accuracy} draws made-up engines, drives them, applies the advice and drives again;
 * {@link nariz.exam.ReferenceReport} compares model and estimate with drives from a simulator that is not part of this
 * project. Nothing of the product depends on this package; {@code nariz accuracy} prints its tables for
 * docs/accuracy.md.
 */
package nariz.exam;
