package nariz.carburetor;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.text.Message;
import nariz.units.Dimension;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/**
 * A part that trims a circuit: its key in files, the unit people name it in, where it stands on the sheet, and what
 * there is to know about changing it. Made by a family with {@link #hole}, {@link #pressure}, {@link #turns} and the
 * methods that refine them. Two parts are equal when their keys are.
 *
 * <p>In one piece because it is one value: what it says of itself and the methods that refine it, most of it
 * documentation.
 */
public final class Part {
    /** What a part does in any family; everything outside a family reasons by this. */
    public enum Role {
        /** Trims the mixture at idle from outside. */
        IDLE_MIXTURE,
        /** Feeds idle and progression with fuel. */
        IDLE_FUEL,
        /** Bleeds air into idle and progression. */
        IDLE_AIR,
        /** Sets the level of the metering circuit. */
        METERING_FUEL,
        /** Sets the slope of the metering circuit against airflow. */
        METERING_AIR,
        /** Says when the enrichment opens. */
        ENRICHMENT_OPENING,
        /** Says how much the enrichment adds. */
        ENRICHMENT_AMOUNT,
        /** Diameter of a needle over a band of its stations. */
        STATION,
        /** Says how a piston that carries a needle answers to the air. */
        PISTON,
        /** Narrowest place of the air's way, which everything else was chosen for. */
        AIR_WAY,
        /** Fuel level: put right, not used as a trim. */
        FUEL_LEVEL,
        /** Sets the idle speed. */
        IDLE_STOP,
        /** Lets idle air past elsewhere, so that the front plates can close over their slots. */
        IDLE_BYPASS,
        /** Holds a second stage shut that air or vacuum opens. */
        SECOND_SPRING,
        /** Says at which pedal a second stage starts to open. */
        SECOND_LINKAGE,
        /** Says how fast the accelerator pump's shot comes out. */
        PUMP_RATE,
        /** Says how much the shot is, and over which travel. */
        PUMP_VOLUME,
        /** Says when the pump starts. */
        PUMP_START,
        /** Holds back a piston that carries a needle as the throttle opens, which stands in for a pump. */
        DAMPER;

        /** {@return whether it says when a second stage opens} */
        public boolean second() {
            return this == SECOND_SPRING || this == SECOND_LINKAGE;
        }

        /** {@return whether it belongs to the accelerator pump, or to the damper that stands in for one} */
        public boolean pump() {
            return this == PUMP_RATE || this == PUMP_VOLUME || this == PUMP_START || this == DAMPER;
        }
    }

    /** What lies over a part. */
    public enum Access {
        /** Reached from outside. */
        OPEN(0.0),
        /** Behind the bowl: fuel to catch, a gasket to renew. */
        BOWL(0.15),
        /** Under the cover of the step-up piston. */
        ROD_COVER(0.10),
        /** Under the cover of a jet stack. */
        STACK(0.02),
        /** Under a piston that carries a needle. */
        PISTON(0.22),
        /** On the underside: the carburetor comes off. */
        BASE(0.30);

        private final double effort;

        Access(double effort) {
            this.effort = effort;
        }

        /** {@return cost of taking it off and putting it back, in units of the decision's loss} */
        public double effort() {
            return effort;
        }
    }

    /**
     * How the work is done, as keys of messages; each may have a place for the size to fit.
     *
     * @param tools what to lay ready
     * @param steps what to do, in order
     * @param proof the measurement that will prove it
     */
    public record Work(List<String> tools, List<String> steps, String proof) {
        /** Copies the lists. */
        public Work {
            tools = List.copyOf(tools);
            steps = List.copyOf(steps);
        }
    }

    private final String key;
    private final Role role;
    private final String field;
    private final Dimension dimension;
    private final String unit;
    private final double si;
    private final int decimals;
    private final boolean richerUp;
    private boolean whole;
    private boolean datum;
    private @Nullable Profile profile;
    private List<String> kinds = List.of();
    private boolean alone;
    private boolean pluggable;
    private boolean drillable;
    private Access access = Access.OPEN;
    private Work work = new Work(List.of(), List.of(), "");
    private List<String> recheck = List.of();
    private List<String> recheckSecondary = List.of();

    private Part(String key, Role role, String field, Dimension dimension, String unit, double si, int decimals,
            boolean richerUp) {
        this.key = key;
        this.role = role;
        this.field = field;
        this.dimension = dimension;
        this.unit = unit;
        this.si = si;
        this.decimals = decimals;
        this.richerUp = richerUp;
    }

    /**
     * A part named by a diameter in thousandths of an inch.
     *
     * @param key name in files
     * @param role what it does
     * @param field its field in the stage's object on the sheet
     * @param richerUp whether a larger one gives more fuel
     * @return the part
     */
    public static Part hole(String key, Role role, String field, boolean richerUp) {
        return new Part(key, role, field, Dimension.LENGTH, "thou", Units.THOU, 1, richerUp);
    }

    /**
     * A part named by a vacuum in inches of mercury.
     *
     * @param key name in files
     * @param role what it does
     * @param field its field in the stage's object on the sheet
     * @return the part; a higher one gives more fuel
     */
    public static Part pressure(String key, Role role, String field) {
        return new Part(key, role, field, Dimension.PRESSURE, "inHg", Units.INHG, 1, true);
    }

    /**
     * A part set by turning it.
     *
     * @param key name in files
     * @param role what it does
     * @param field its field on the sheet
     * @param richerUp whether more turns give more fuel
     * @return the part
     */
    public static Part turns(String key, Role role, String field, boolean richerUp) {
        return new Part(key, role, field, Dimension.TURNS, "turns", 1.0, 3, richerUp);
    }

    /**
     * A part that comes in a few kinds with names.
     *
     * @param key name in files
     * @param role what it does
     * @param field its field on the sheet, a word
     * @param kinds the words, those that give more first fuel later
     * @return the part; its size is the index of its word
     */
    public static Part kinds(String key, Role role, String field, List<String> kinds) {
        Part p = new Part(key, role, field, Dimension.COUNT, "", 1.0, 0, true);
        p.kinds = List.copyOf(kinds);
        return p;
    }

    /**
     * A part told in a unit of its own.
     *
     * @param key name in files
     * @param role what it does
     * @param field its field on the sheet
     * @param dimension what it measures; a number without a unit has the unit ""
     * @param unit the unit people name it in
     * @param decimals digits behind the point that matter
     * @param richerUp whether a larger one gives more fuel
     * @return the part
     */
    public static Part measured(String key, Role role, String field, Dimension dimension, String unit, int decimals,
            boolean richerUp) {
        return new Part(key, role, field, dimension, unit, dimension.toSi(1.0, unit), decimals, richerUp);
    }

    /**
     * The diameter of a needle over a band of its stations, told by the one in the band's middle.
     *
     * @param key name in files
     * @param profile name in files of all bands together
     * @param field field of the list of diameters in the stage's object on the sheet
     * @param bands all bands
     * @param band which of them
     * @param hole field, there too, of the hole that all of it goes into
     * @param gapM by how much it is thinner than the hole at least, m
     * @return the part; thinner gives more fuel
     */
    public static Part station(String key, String profile, String field, Bands bands, int band, String hole,
            double gapM) {
        Part p = hole(key, Role.STATION, field, false);
        p.profile = new Profile(profile, bands, band, hole, gapM);
        return p;
    }

    /** A band of a needle's profile, and the hole the needle goes into. */
    private record Profile(String key, Bands bands, int band, String hole, double gapM) {
        int middle(int stations) {
            return bands.station(band, stations);
        }
    }

    private Part copy() {
        Part p = new Part(key, role, field, dimension, unit, si, decimals, richerUp);
        p.whole = whole;
        p.datum = datum;
        p.profile = profile;
        p.kinds = kinds;
        p.alone = alone;
        p.pluggable = pluggable;
        p.drillable = drillable;
        p.access = access;
        p.work = work;
        p.recheck = recheck;
        p.recheckSecondary = recheckSecondary;
        return p;
    }

    /** {@return the same, belonging to the carburetor and not to one of its stages} */
    public Part whole() {
        Part p = copy();
        p.whole = true;
        return p;
    }

    /** {@return the same, counted down (positive) and up from where it is level with something} */
    public Part fromDatum() {
        Part p = copy();
        p.datum = true;
        return p;
    }

    /** {@return whether it is counted down and up from a level, so that its size may be negative} */
    public boolean isFromDatum() {
        return datum;
    }

    /** {@return the same, of a family with one stage, which need not be named} */
    public Part alone() {
        Part p = copy();
        p.alone = true;
        return p;
    }

    /** {@return the same, with 0 meaning plugged} */
    public Part orPlugged() {
        Part p = copy();
        p.pluggable = true;
        return p;
    }

    /** {@return the same, a hole that can be drilled out} */
    public Part drilled() {
        Part p = copy();
        p.drillable = true;
        return p;
    }

    /**
     * The same behind something.
     *
     * @param a what has to come off first
     * @return the part
     */
    public Part behind(Access a) {
        Part p = copy();
        p.access = a;
        return p;
    }

    /**
     * The same with how the work is done.
     *
     * @param w work
     * @return the part
     */
    public Part by(Work w) {
        Part p = copy();
        p.work = w;
        return p;
    }

    /**
     * The same with what to look at again afterwards.
     *
     * @param codes keys of messages, in order
     * @return the part
     */
    public Part then(String... codes) {
        Part p = copy();
        p.recheck = List.of(codes);
        return p;
    }

    /**
     * The same with what to look at again after changing the second stage's, where that is less.
     *
     * @param codes keys of messages, in order
     * @return the part
     */
    public Part thenOnSecondary(String... codes) {
        Part p = copy();
        p.recheckSecondary = List.of(codes);
        return p;
    }

    /** {@return the name used in files and on the command line} */
    public String key() {
        return key;
    }

    /** {@return what it does} */
    public Role role() {
        return role;
    }

    /** {@return its field on the sheet, below its stage or below the carburetor} */
    public String field() {
        return field;
    }

    /** {@return the trade's words for it} */
    public Message label() {
        return message("part." + key);
    }

    /** {@return what kind of quantity it is} */
    public Dimension dimension() {
        return dimension;
    }

    /** {@return SI value of one {@link #unit()}} */
    public double si() {
        return si;
    }

    /** {@return the unit people name it in} */
    public String unit() {
        return unit;
    }

    /**
     * Whether going from one size to another adds fuel.
     *
     * @param from size now
     * @param to size then
     * @return true where it enriches
     */
    public boolean enriches(double from, double to) {
        return (to > from) == richerUp();
    }

    /** {@return whether a greater value gives more fuel} */
    public boolean richerUp() {
        return richerUp;
    }

    /** {@return whether 0 means plugged} */
    public boolean pluggable() {
        return pluggable;
    }

    /** {@return whether it is a hole that can be drilled out} */
    public boolean drillable() {
        return drillable;
    }

    /** {@return what has to come off first} */
    public Access access() {
        return access;
    }

    /** {@return how the work is done} */
    public Work work() {
        return work;
    }

    /**
     * What to look at again after a change.
     *
     * @param stage stage that was changed
     * @return keys of messages, in order
     */
    public List<String> recheck(Stage stage) {
        return stage == Stage.SECONDARY && !recheckSecondary.isEmpty() ? recheckSecondary : recheck;
    }

    /** {@return whether this is set by turning or bending what is there, so that nothing has to be bought} */
    public boolean adjusted() {
        return dimension == Dimension.TURNS || dimension == Dimension.ANGLE
                || role == Role.PUMP_START || role == Role.FUEL_LEVEL;
    }

    /** {@return whether this belongs to the carburetor and not to one of its stages} */
    public boolean isWhole() {
        return whole;
    }

    /**
     * Where it stands on a sheet.
     *
     * @param stage which stage
     * @return path below {@code carburetor}
     */
    String path(Stage stage) {
        return whole ? field : stage.key() + "." + field;
    }

    /**
     * Reads this part off a carburetor.
     *
     * @param c the carburetor
     * @param stage which stage; no matter where there is one for both
     * @return value in {@link #unit()}; 0 where it is not fitted
     */
    public double of(Carburetor c, Stage stage) {
        if (profile != null) {
            List<Double> stations = c.each(path(stage));
            return stations.isEmpty() ? 0.0 : stations.get(profile.middle(stations.size())) / si;
        }
        return kinds.isEmpty() ? c.number(path(stage)) / si : c.says(path(stage)) ? kinds.indexOf(c.word(path(stage)))
                : 0.0;
    }

    /**
     * The word on the sheet for a size, where a part comes in kinds.
     *
     * @param value size
     * @return its kind; empty for a part that is measured
     */
    public Optional<String> kind(double value) {
        return kinds.isEmpty() ? Optional.empty() : Optional.of(kinds.get(Math.clamp(Math.round(value), 0, kinds.size()
                - 1)));
    }

    /** {@return name in files of the profile this is a band of; empty for any other part} */
    public String profile() {
        return profile == null ? "" : profile.key();
    }

    /**
     * Where each of several stands, where they do not stand alike.
     *
     * @param c the carburetor
     * @param stage which stage
     * @return values in {@link #unit()}; empty where all are alike
     */
    public List<Double> each(Carburetor c, Stage stage) {
        return c.each(path(stage)).stream().map(v -> v / si).toList();
    }

    /**
     * A sheet with this part changed.
     *
     * @param sheet today's sheet
     * @param stage which stage
     * @param value new value in {@link #unit()}
     * @return a new sheet
     */
    public BuildSheet fit(BuildSheet sheet, Stage stage, double value) {
        if (profile != null) {
            Carburetor c = sheet.carburetor();
            return sheet.withCarburetor(c.withEach(path(stage), profile.bands().moved(profile.band(), c.each(path(
                    stage)), (value - of(c, stage)) * si, c.number(stage.key() + "." + profile.hole()) - profile
                    .gapM())));
        }
        return sheet.withCarburetor(kinds.isEmpty() ? sheet.carburetor().with(path(stage), value * si)
                : sheet.carburetor().with(path(stage), kind(value).orElseThrow()));
    }

    /**
     * The part of a stage as a person would say it.
     *
     * @param stage which stage
     * @return for example {@code "primary main jets"}; without the stage where the carburetor has only one
     */
    public Message named(Stage stage) {
        return whole || alone ? label() : message("part.of-side", stage.label(), label());
    }

    /**
     * A change as a person would say it.
     *
     * @param stage which stage
     * @param from size now, in {@link #unit()}
     * @param to size then
     * @return for example {@code "primary main jets: 59 thou to 62 thou"}
     */
    public Message title(Stage stage, double from, double to) {
        return PartText.title(this, stage, from, to);
    }

    /**
     * From where to where, without the part's name.
     *
     * @param from size now, in {@link #unit()}
     * @param to size then
     * @return for example {@code "59 thou → 62 thou"}
     */
    public Message fromTo(double from, double to) {
        return PartText.fromTo(this, from, to);
    }

    /**
     * What is fitted once the change is made.
     *
     * @param from size before, in {@link #unit()}
     * @param to size now
     * @return for example {@code "62 thou"}
     */
    public Message reached(double from, double to) {
        return PartText.reached(this, from, to);
    }

    /**
     * A value as a person would say it.
     *
     * @param value in {@link #unit()}
     * @return for example {@code "59 thou"}
     */
    public Message text(double value) {
        return PartText.of(this, value);
    }

    int decimals() {
        return decimals;
    }

    List<String> kinds() {
        return kinds;
    }

    /** {@return keys of all parts, for messages} */
    static List<String> keys() {
        return new ArrayList<>(Families.parts()).stream().map(Part::key).toList();
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof Part p && p.key.equals(key);
    }

    @Override
    public int hashCode() {
        return key.hashCode();
    }

    @Override
    public String toString() {
        return key;
    }
}
