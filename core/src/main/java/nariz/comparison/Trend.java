package nariz.comparison;

/**
 * How the difference grows with airflow: difference = a + b (air / largest air)². A cleaner's loss of pressure goes
 * with the square of airflow (flow through a fixed resistance, Heywood 1988, sect. 6.2.3), so b is what it costs at
 * the largest airflow that both drives reached.
 *
 * @param atLargest b, share of lambda
 * @param low lower end of its 90 % interval
 * @param high upper end
 * @param airKgPerS the largest airflow, kg/s
 */
public record Trend(double atLargest, double low, double high, double airKgPerS) {
    /** {@return whether the interval leaves no trend out} */
    public boolean certain() {
        return low > 0 || high < 0;
    }
}
