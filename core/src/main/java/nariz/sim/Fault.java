package nariz.sim;

/** Something wrong that no fuel part puts right. */
public enum Fault {
    /** Unmetered air into the manifold; strength 1 is about a 4 mm hole. */
    VACUUM_LEAK,
    /** Air drawn into the exhaust ahead of the sensor; strength 1 reads about 8 % lean at idle. */
    EXHAUST_LEAK,
    /** Sensor that reads lean by 5 % of lambda at strength 1. */
    SENSOR_OFFSET,
    /** Fuel level that falls during a long pull; strength 1 loses 15 % after about six seconds. */
    FALLING_FUEL_LEVEL,
    /**
     * Air cleaner that needs a new element; strength 1 takes 2.5 kPa at the largest airflow and richens by 9 % there,
     * and before a piston's own 2 kPa 0.8 kPa and so 18 %.
     */
    AIR_CLEANER,
    /** One cylinder misses now and then; strength 1 is two bursts a second of 0.15 s that read 0.25 lambda lean. */
    MISFIRE
}
