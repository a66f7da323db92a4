package nariz.carburetor;

import java.util.ArrayList;
import java.util.List;

/**
 * Stretches of a profile of stations that are read and changed by themselves. Each has its middle at a station; between
 * the middles of two neighbours the share of the one falls as that of the other rises, so that the shares of all are 1
 * everywhere.
 *
 * @param middles places of the middles along the profile, shares of its length from 0 to 1, rising
 */
public record Bands(List<Double> middles) {
    /** Copies the list. */
    public Bands {
        middles = List.copyOf(middles);
    }

    /**
     * The station in the middle of a band.
     *
     * @param band which, from 0
     * @param stations how many stations the profile has
     * @return index of the station, from 0
     */
    public int station(int band, int stations) {
        return (int) Math.clamp(Math.round(middles.get(band) * (stations - 1)), band, stations - 1L);
    }

    /**
     * Share of a band at a place.
     *
     * @param band which, from 0
     * @param at place along the profile, in stations from 0; beyond the outer middles the outer band has all
     * @param stations how many stations the profile has
     * @return 0 to 1
     */
    public double share(int band, double at, int stations) {
        double middle = station(band, stations);
        if (at <= middle) {
            return band == 0 ? 1.0 : part(at, station(band - 1, stations), middle);
        }
        return band == middles.size() - 1 ? 1.0 : part(at, station(band + 1, stations), middle);
    }

    /**
     * A profile with a band moved: every station by the band's share in it. It never grows towards its end.
     *
     * @param band which, from 0
     * @param stations sizes at the stations, none larger than the one before
     * @param by how far the band's middle goes, in their unit
     * @param most largest size there can be
     * @return sizes then, none negative
     */
    public List<Double> moved(int band, List<Double> stations, double by, double most) {
        List<Double> out = new ArrayList<>();
        double above = most;
        for (int i = 0; i < stations.size(); i++) {
            above = Math.max(0.0, Math.min(above, stations.get(i) + by * share(band, i, stations.size())));
            out.add(above);
        }
        return out;
    }

    /**
     * How far a band can go before the profile would grow towards its end: nobody makes such a needle, and the piston
     * would stand on it.
     *
     * @param band which, from 0
     * @param stations sizes at the stations, none larger than the one before
     * @return how far its middle can go down, 0 or less, and up, 0 or more, in their unit
     */
    public double[] room(int band, List<Double> stations) {
        double down = Double.NEGATIVE_INFINITY;
        double up = Double.POSITIVE_INFINITY;
        for (int i = 1; i < stations.size(); i++) {
            double falls = stations.get(i - 1) - stations.get(i);
            double share = share(band, i, stations.size()) - share(band, i - 1.0, stations.size());
            if (share > 0.0) {
                up = Math.min(up, falls / share);
            } else if (share < 0.0) {
                down = Math.max(down, falls / share);
            }
        }
        return new double[] {Math.min(0.0, down), Math.max(0.0, up)};
    }

    private static double part(double at, double other, double middle) {
        return other == middle ? 0.0 : Math.clamp((at - other) / (middle - other), 0.0, 1.0);
    }
}
