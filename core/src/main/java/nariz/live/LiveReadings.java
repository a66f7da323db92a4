package nariz.live;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.coverage.DrivePlan;
import nariz.estimation.Flag;
import nariz.estimation.LiveRunning;
import nariz.log.Channel;
import nariz.log.GrowingLog;
import nariz.log.Plan;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/**
 * What the lines of a device say at this moment: readings with the trend and spread of the last half minute, which
 * circuit is speaking, what of the list to record is done, and whether to lift. Its memory does not grow: what is
 * longer ago than half a minute is only in the record. One thread at a time; a {@link Now} may go to another.
 */
public final class LiveReadings {
    /** How far back strips reach, s. */
    public static final double BACK_S = 30.0;
    private static final int MOST_BACK = 6000;
    private static final double SPREAD_S = 5.0;
    /** How far back a trend reaches, s. */
    public static final double TREND_S = 10.0;
    /** A log begins anew after so many rows: only its last values are asked for. */
    private static final int ROWS_A_LOG = 4000;
    private static final double STAB_SHARE = 0.25;
    private static final double STAB_S = 0.4;
    private static final double SHUT = 0.02;

    private final BuildSheet sheet;
    private final @Nullable Plan plan;
    private final DeliveryModel model;
    private final Delivery flow;
    private final LeanWarning lean = new LeanWarning();
    private final List<DrivePlan.Item> wanted;
    private final double[] read;
    private final List<String> lastLines = new ArrayList<>();
    private final double[][] back = new double[4][MOST_BACK];
    private String header = "";
    private @Nullable GrowingLog log;
    private @Nullable LiveRunning running;
    private int at;
    private int held;
    private double timeS = Double.NaN;
    private double openedS = Double.NEGATIVE_INFINITY;
    private double shutS = Double.NEGATIVE_INFINITY;
    private boolean warn;
    private Flag flag = Flag.MISSING;
    private long rows;

    /**
     * A trend.
     *
     * @param mean over the last {@value #SPREAD_S} s
     * @param sd spread over them
     * @param perS change a second over the last {@value #TREND_S} s; NaN before there is enough
     */
    public record Trend(double mean, double sd, double perS) {
    }

    /**
     * One moment.
     *
     * @param timeS time of the last row, s
     * @param rpm speed; NaN where missing, like all that follow
     * @param vacuumPa vacuum, Pa
     * @param lambda first sensor
     * @param lambda2 second sensor
     * @param throttle share of its travel
     * @param coolantK coolant, K
     * @param speed trend of the speed
     * @param vacuum trend of the vacuum
     * @param mixture trend of lambda
     * @param warm whether the engine is warm; true where no temperature is logged
     * @param flag why this moment does not count toward calibration, or that it does
     * @param shares share of the fuel of every circuit, in the order of the family
     * @param lean whether to lift now
     * @param read how much of every reading on the list was made live
     * @param strip the last half minute: seconds ago, rpm, vacuum, lambda
     * @param rows rows so far
     */
    public record Now(double timeS, double rpm, double vacuumPa, double lambda, double lambda2, double throttle,
            double coolantK, Trend speed, Trend vacuum, Trend mixture, boolean warm, Flag flag, double[] shares,
            boolean lean, double[] read, double[][] strip, long rows) {
    }

    /**
     * Nothing read yet.
     *
     * @param sheet what is fitted
     * @param plan what the columns mean; null to go by header and units alone
     * @param wanted readings on the list to record
     */
    public LiveReadings(BuildSheet sheet, @Nullable Plan plan, List<DrivePlan.Item> wanted) {
        this.sheet = sheet;
        this.plan = plan;
        this.wanted = List.copyOf(wanted);
        model = sheet.carburetor().family().model(sheet);
        flow = model.newDelivery();
        read = wanted.stream().mapToDouble(DrivePlan.Item::read).toArray();
    }

    /**
     * Takes a line.
     *
     * @param line header or row, as {@link DeviceSource} gives them
     * @throws nariz.carburetor.InputProblem when the first lines cannot be those of a log
     */
    public void add(String line) {
        if (header.isEmpty()) {
            header = line;
            log = begun(List.of());
            return;
        }
        GrowingLog l = log == null ? begun(List.of()) : log;
        if (lastLines.size() >= GrowingLog.FIRST_LINES) {
            lastLines.removeFirst();
        }
        if (l.size() >= ROWS_A_LOG) {
            l = begun(lastLines);
        }
        log = l;
        lastLines.add(line);
        if (l.add(line)) {
            rows++;
            sample(l);
        }
    }

    private GrowingLog begun(List<String> again) {
        GrowingLog l = new GrowingLog("live", plan);
        l.add(header);
        again.forEach(l::add);
        return l;
    }

    private void sample(GrowingLog l) {
        double was = timeS;
        timeS = l.lastTimeS();
        double throttle = l.last(Channel.THROTTLE);
        double rpm = l.last(Channel.RPM);
        double vacuum = vacuum(l);
        double lambda = lambda(l);
        if (running == null) {
            running = new LiveRunning(sheet, !Double.isNaN(throttle));
        }
        flag = timeS > was || Double.isNaN(was) ? running.add(timeS, rpm, vacuum, lambda, throttle, l.last(
                Channel.COOLANT)) : Flag.MISSING;
        warn = lean.add(timeS, rpm, vacuum, lambda);
        back[0][at] = timeS;
        back[1][at] = rpm;
        back[2][at] = vacuum;
        back[3][at] = lambda;
        at = (at + 1) % MOST_BACK;
        held = Math.min(MOST_BACK, held + 1);
        tick(Double.isNaN(was) ? 0.0 : Math.clamp(timeS - was, 0.0, 0.5), rpm, vacuum, throttle);
    }

    private double vacuum(GrowingLog l) {
        double v = l.last(Channel.VACUUM);
        double map = l.last(Channel.MAP);
        return Double.isNaN(v) && !Double.isNaN(map) ? sheet.ambient().pressurePa() - map : v;
    }

    private double lambda(GrowingLog l) {
        double direct = l.last(Channel.LAMBDA);
        double afr = l.last(Channel.AFR);
        return Double.isNaN(direct) && !Double.isNaN(afr) ? afr / Units.PETROL_GAUGE_STOICH : direct;
    }

    /** Ticks the list off: steady seconds in a window, openings one by one. */
    private void tick(double stepS, double rpm, double vacuum, double throttle) {
        boolean opened = false;
        if (throttle < SHUT) {
            shutS = timeS;
        } else if (throttle > STAB_SHARE && timeS - shutS < STAB_S && timeS - openedS > 2.0) {
            openedS = timeS;
            opened = true;
        }
        boolean idles = rpm < 1.35 * sheet.engine().idleRpm();
        for (int i = 0; i < read.length; i++) {
            DrivePlan.Item item = wanted.get(i);
            if (item.anywhere()) {
                read[i] += opened && item.circuit().role() == Circuit.Role.PUMP ? 1.0 : 0.0;
                continue;
            }
            boolean counts = flag == Flag.STEADY || (flag == Flag.TRANSIENT && item.pull());
            read[i] += item.holds(rpm, vacuum) && counts && item.idle() == idles ? stepS : 0.0;
        }
    }

    /** {@return whether there is a row to show} */
    public boolean begun() {
        return held > 0;
    }

    /** {@return the readings of this moment} */
    public Now now() {
        GrowingLog l = log;
        int last = Math.floorMod(at - 1, MOST_BACK);
        double rpm = held == 0 ? Double.NaN : back[1][last];
        double vacuum = held == 0 ? Double.NaN : back[2][last];
        double[] shares = new double[sheet.carburetor().family().circuits().size()];
        if (rpm > 200 && vacuum > 0 && vacuum < sheet.ambient().pressurePa() - 5e3) {
            model.evaluate(rpm, vacuum, flow);
            double total = flow.total();
            for (Circuit c : sheet.carburetor().family().circuits()) {
                shares[c.index()] = total > 0 ? flow.phi(c) / total : 0.0;
            }
        }
        double coolant = l == null ? Double.NaN : l.last(Channel.COOLANT);
        return new Now(timeS, rpm, vacuum, held == 0 ? Double.NaN : back[3][last], l == null ? Double.NaN : l.last(
                Channel.LAMBDA_2), l == null ? Double.NaN : l.last(Channel.THROTTLE), coolant, trend(1), trend(2),
                trend(3), !LiveRunning.cold(coolant), flag, shares, warn, read.clone(), strip(), rows);
    }

    private double[][] strip() {
        int n = 0;
        while (n < held && back[0][Math.floorMod(at - 1 - n, MOST_BACK)] > timeS - BACK_S) {
            n++;
        }
        double[][] out = new double[4][n];
        for (int i = 0; i < n; i++) {
            int k = Math.floorMod(at - n + i, MOST_BACK);
            out[0][i] = timeS - back[0][k];
            for (int c = 1; c < 4; c++) {
                out[c][i] = back[c][k];
            }
        }
        return out;
    }

    private Trend trend(int channel) {
        double sum = 0;
        double square = 0;
        int near = 0;
        double st = 0;
        double sy = 0;
        double stt = 0;
        double sty = 0;
        int n = 0;
        for (int i = 0; i < held; i++) {
            int k = Math.floorMod(at - 1 - i, MOST_BACK);
            double ago = timeS - back[0][k];
            double y = back[channel][k];
            if (ago > TREND_S) {
                break;
            }
            if (Double.isNaN(y)) {
                continue;
            }
            if (ago <= SPREAD_S) {
                sum += y;
                square += y * y;
                near++;
            }
            st -= ago;
            sy += y;
            stt += ago * ago;
            sty -= ago * y;
            n++;
        }
        double mean = near == 0 ? Double.NaN : sum / near;
        double den = n * stt - st * st;
        return new Trend(mean, near == 0 ? Double.NaN : Math.sqrt(Math.max(0.0, square / near - mean * mean)),
                n < 20 || den <= 0 ? Double.NaN : (n * sty - st * sy) / den);
    }

    /** {@return the readings on the list} */
    public List<DrivePlan.Item> wanted() {
        return wanted;
    }

    /** {@return the circuit that gives most of the fuel} */
    public static int speaking(double[] shares) {
        int most = 0;
        for (int i = 1; i < shares.length; i++) {
            most = shares[i] > shares[most] ? i : most;
        }
        return Arrays.stream(shares).sum() > 0 ? most : -1;
    }

    /** Keeps the warning quiet for this moment. */
    public void mute() {
        lean.mute(5.0);
    }
}
