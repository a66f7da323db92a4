package nariz.coverage;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.CircuitFinding;
import nariz.diagnosis.Regime;
import nariz.dynamics.OpeningStudy;
import nariz.dynamics.TipIn;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.DriveLog;
import nariz.text.Measure;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * The readings that a verdict on every circuit needs, as a short list of steady points and pulls, and how much of each
 * a drive holds. Where a point lies follows from the sheet: the slot's from where it gives way to the main circuit, the
 * main circuit's between that and the enrichment, each at a few engine speeds.
 *
 * @param items in the order of work
 */
public record DrivePlan(List<Item> items) {
    private static final double STEP_PA = 500;
    private static final double FULL_PA = 8e3;
    private static final double MARGIN_PA = 1.5e3;
    private static final double NARROWEST_PA = 5e3;
    private static final double[] SLOW = {1.7, 2.1, 2.6};
    private static final double[] MIDDLE = {0.40, 0.50, 0.60};
    private static final double WIDTH = 0.10;
    private static final int STABS = 6;
    private static final int MORE_STABS = 3;
    private static final Message SECONDS = Message.literal("s");

    /** Copies the list. */
    public DrivePlan {
        items = List.copyOf(items);
    }

    /**
     * One reading to make.
     *
     * @param circuit circuit it speaks for
     * @param text what to do
     * @param caution what to mind, or empty
     * @param fromRpm least engine speed, rpm
     * @param toRpm greatest
     * @param fromPa least vacuum, Pa
     * @param toPa greatest
     * @param unit what is counted: "s" or "stabs"
     * @param wanted how much is wanted
     * @param read how much this drive holds
     */
    public record Item(Circuit circuit, Message text, Message caution, double fromRpm, double toRpm, double fromPa,
            double toPa, Message unit, double wanted, double read) {
        /** {@return whether openings of the throttle are counted, or a pull whose place the log shows} */
        public boolean anywhere() {
            return Double.isNaN(fromRpm);
        }

        /** {@return whether it is read at curb idle, whatever the vacuum} */
        public boolean idle() {
            return !anywhere() && Double.isNaN(fromPa);
        }

        /** {@return whether it is a full-load pull, of which every second counts and not steady ones alone} */
        public boolean pull() {
            return toPa <= FULL_PA;
        }

        /**
         * Whether a moment lies where this is read.
         *
         * @param rpm speed, rpm
         * @param vacuumPa vacuum, Pa
         * @return false for what is read {@link #anywhere}
         */
        public boolean holds(double rpm, double vacuumPa) {
            return !anywhere() && rpm >= fromRpm && rpm <= toRpm && (idle() || (vacuumPa >= fromPa
                    && vacuumPa <= toPa));
        }

        /** {@return whether there is enough} */
        public boolean done() {
            return read >= wanted;
        }
    }

    /**
     * The plan of a drive.
     *
     * @param a drive that was analysed
     * @param tipIns its openings of the throttle
     * @return every reading, ticked off as far as the drive covers it
     */
    public static DrivePlan of(Analysis a, List<TipIn> tipIns) {
        return of(a.observation().sheet(), a.observation(), a, tipIns);
    }

    /**
     * The plan of a car nobody has driven yet.
     *
     * @param sheet what is fitted
     * @return every reading, none of it made
     */
    public static DrivePlan of(BuildSheet sheet) {
        return of(sheet, null, null, List.of());
    }

    private static DrivePlan of(BuildSheet sheet, @Nullable Observation o, @Nullable Analysis a, List<TipIn> tipIns) {
        double idle = sheet.engine().idleRpm();
        double red = sheet.engine().redlineRpm();
        double most = sheet.ambient().pressurePa() - 10e3;
        Family family = sheet.carburetor().family();
        List<Item> out = new ArrayList<>();
        List<Circuit> slots = family.circuits().stream().filter(Circuit::lowSpeed).toList();
        double seconds = steady(o, 0.75 * idle, 1.35 * idle, 0, most, true);
        Circuit curbIdle = family.circuit(Stage.PRIMARY, Circuit.Role.IDLE).orElseThrow();
        Circuit metering = family.circuit(Stage.PRIMARY, Circuit.Role.METERING).orElseThrow();
        List<Circuit> bands = family.bands().isEmpty() ? List.of() : family.circuits().stream().filter(c -> c.is(
                Stage.PRIMARY, Circuit.Role.METERING)).toList();
        Optional<Circuit> progression = family.circuit(Stage.PRIMARY, Circuit.Role.PROGRESSION);
        out.add(new Item(curbIdle, message("drive-plan.idle-warm-about-rpm", idle),
                message("drive-plan.in-the-open-air"), 0.75 * idle, 1.35 * idle,
                Double.NaN, Double.NaN, SECONDS, 40, seconds));
        DeliveryModel model = family.model(sheet);
        for (double times : SLOW) {
            double rpm = times * idle;
            double ends = slotEnds(model, slots, rpm, most);
            if (progression.isPresent() && most - ends > NARROWEST_PA) {
                out.add(point(o, progression.get(), rpm, ends + MARGIN_PA, most, 15));
            }
        }
        double line = family.enrichmentPa(sheet.carburetor(), Stage.PRIMARY);
        double opens = Math.max(FULL_PA, line + 3e3);
        for (double times : MIDDLE) {
            double rpm = times * red;
            double ends = slotEnds(model, slots, rpm, most) - MARGIN_PA;
            if (bands.isEmpty() && ends - opens > NARROWEST_PA) {
                out.add(point(o, metering, rpm, opens, ends, 10));
            }
            for (Circuit band : bands) {
                double[] has = mostOf(model, band, rpm, most);
                if (has[1] - has[0] > NARROWEST_PA) {
                    out.add(point(o, band, rpm, has[0], has[1], 10));
                }
            }
        }
        if (line > 0) {
            double low = Math.max(2e3, line - 8e3);
            double high = line + 8e3;
            out.add(new Item(family.circuit(Stage.PRIMARY, Circuit.Role.ENRICHMENT).orElseThrow(),
                    message("drive-plan.a-climb-on-which", Measure.atLeast(high),
                    Measure.atMost(low), Measure.VACUUM_UNIT, 0.35 * red, 0.65 * red), Message.NONE, 0.35 * red,
                    0.65 * red, low,
                            high, SECONDS, 15, steady(o, 0.35 * red, 0.65 * red,
                    low, high, false)));
        }
        Optional.ofNullable(a).flatMap(x -> x.advice().awaited()).ifPresent(p -> out.add(new Item(
                family.circuit(Stage.PRIMARY, Circuit.Role.ENRICHMENT).orElseThrow(),
                p.text(), message("drive-plan.closed-course-or-rolling"), Double.NaN, Double.NaN, Double.NaN,
                Double.NaN,
                SECONDS, p.wantedS(), p.readS())));
        Circuit atFullLoad = family.circuits().stream().filter(c -> c.role() == Circuit.Role.METERING).reduce((one,
                next) -> next).orElse(metering);
        out.add(new Item(atFullLoad, message("drive-plan.two-full-throttle-pulls", 0.5 * red, 0.9 * red),
                message("drive-plan.closed-course-or-rolling"),
                0.5 * red, 0.95 * red, 0, FULL_PA, SECONDS, CircuitFinding.ENOUGH_PULL_S,
                full(o, 0.5 * red, 0.95 * red)));
        Optional<Circuit> pump = family.circuit(Stage.PRIMARY, Circuit.Role.PUMP);
        if (pump.isEmpty()) {
            return new DrivePlan(out);
        }
        long stabs = tipIns.stream().filter(TipIn::fromClosed).count();
        out.add(new Item(pump.get(), message("drive-plan.six-quick-openings-from"),
                message("drive-plan.clear-road-nobody-behind"), Double.NaN, Double.NaN, Double.NaN,
                Double.NaN, message("drive-plan.stabs"), STABS, stabs));
        Optional.ofNullable(a).flatMap(x -> x.advice().pump()).flatMap(OpeningStudy.Finding::tells).ifPresent(t ->
                out.add(new Item(pump.get(),
                message(Double.isNaN(t.opened()) ? "drive-plan.three-like" : "drive-plan.three-like-throttle",
                        (int) t.atS() / 60, t.atS() % 60, t.rpm(), Measure.vacuum(t.fromVacuumPa()), Measure.vacuum(
                                t.toVacuumPa()), 100 * t.opened()), message("drive-plan.clear-road-nobody-behind"),
                Double.NaN, Double.NaN, Double.NaN, Double.NaN, message("drive-plan.stabs"), MORE_STABS, 0)));
        return new DrivePlan(out);
    }

    private static Item point(@Nullable Observation o, Circuit c, double rpm, double fromPa, double toPa,
            double wanted) {
        double low = (1 - WIDTH) * rpm;
        double high = (1 + WIDTH) * rpm;
        return new Item(c, message(c.lowSpeed() ? "drive-plan.steady-at-rpm-vacuum"
                : "drive-plan.steady-at-rpm-vacuum-2", rpm, Measure.atLeast(fromPa), Measure.atMost(toPa),
                Measure.VACUUM_UNIT, wanted), Message.NONE, low, high, fromPa, toPa,
                SECONDS, wanted, steady(o, low, high, fromPa, toPa, false));
    }

    /** Greatest vacuum at which the slot no longer gives most of the fuel, Pa; 0 when it always does. */
    private static double slotEnds(DeliveryModel model, List<Circuit> slots, double rpm, double most) {
        Delivery f = model.newDelivery();
        for (double v = most; v > STEP_PA; v -= STEP_PA) {
            model.evaluate(rpm, v, f);
            double slot = slots.stream().mapToDouble(f::phi).sum();
            if (slot < Regime.SLOT_SHARE * f.total()) {
                return v;
            }
        }
        return 0;
    }

    /** Vacuums between which a circuit gives most of the fuel, Pa; the second is the lower where it never does. */
    private static double[] mostOf(DeliveryModel model, Circuit c, double rpm, double most) {
        Delivery f = model.newDelivery();
        double[] out = {most, 0.0};
        for (double v = STEP_PA; v <= most; v += STEP_PA) {
            model.evaluate(rpm, v, f);
            if (f.phi(c) > 0.5 * f.total()) {
                out[0] = Math.min(out[0], v);
                out[1] = Math.max(out[1], v);
            }
        }
        return out;
    }

    private static double steady(@Nullable Observation o, double fromRpm, double toRpm, double fromPa, double toPa,
            boolean idle) {
        return o == null ? 0.0 : o.cells().stream().filter(c -> c.idle() == idle && c.rpm() >= fromRpm
                && c.rpm() <= toRpm
                && c.vacuumPa() >= fromPa && c.vacuumPa() <= toPa).mapToDouble(c -> c.dwellS()).sum();
    }

    /** Full throttle does not stand still: every second with a reading counts, not steady ones alone. */
    private static double full(@Nullable Observation o, double fromRpm, double toRpm) {
        if (o == null) {
            return 0.0;
        }
        DriveLog log = o.log();
        double sum = 0;
        for (int i = 0; i + 1 < log.size(); i++) {
            boolean reads = o.flag(i) == Flag.STEADY || o.flag(i) == Flag.TRANSIENT;
            int s = o.stateOf(i);
            double dt = log.timeS()[i + 1] - log.timeS()[i];
            if (reads && dt < Math.max(1, o.gapS()) && log.rpm()[s] >= fromRpm && log.rpm()[s] <= toRpm
                    && log.vacuumPa()[s] < FULL_PA) {
                sum += dt;
            }
        }
        return sum;
    }

    /** {@return readings still to be made} */
    public List<Item> missing() {
        return items.stream().filter(i -> !i.done()).toList();
    }
}
