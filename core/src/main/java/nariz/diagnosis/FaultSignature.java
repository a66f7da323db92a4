package nariz.diagnosis;

import nariz.text.Message;

/**
 * What a fault does to the readings.
 *
 * @param cause key, see {@link Hypothesis}
 * @param label words for people
 * @param prior how often it is the cause when a car is looked at
 * @param usual standard deviation of gamma, its size in units of the shape
 * @param shape relative change of phi by cell at gamma = 1
 * @param bothSigns whether gamma may be negative
 * @param real whether the cylinders burn it, and not only the sensor reads it
 * @param gammaRead gamma as a mark has it that no mixture over speed and load shows
 * @param gammaSd its standard deviation; infinite when there is no such mark
 * @param mark log likelihood ratio of another mark that only this fault leaves
 * @param harm what leaving it costs beside what the cells show, in units of the decision's loss
 * @param minutes what the check takes, in units of the decision's loss
 * @param evidence what in the log speaks for it
 * @param check what to do to settle it
 */
record FaultSignature(String cause, Message label, double prior, double usual, double[] shape, boolean bothSigns,
        boolean real, double gammaRead, double gammaSd, double mark, double harm, double minutes, Message evidence,
        Message check) {
    boolean leak() {
        return Hypothesis.LEAKS.contains(cause);
    }
}
