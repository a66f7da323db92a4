package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import nariz.app.task.Alarm;
import nariz.app.task.TaskRunner;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.coverage.DrivePlan;
import nariz.idle.IdleGuide;
import nariz.idle.IdleReading;
import nariz.live.DeviceAddress;
import nariz.live.DeviceSource;
import nariz.live.LineFilter;
import nariz.live.LiveReadings;
import nariz.live.LiveRecorder;
import nariz.sim.BalanceUpset;
import nariz.sim.Demo;
import nariz.sim.PracticeUpset;
import nariz.sim.RunningEngine;
import nariz.sim.StandInDevice;
import nariz.sim.WhenSettled;
import nariz.workbook.Recordings;
import org.jspecify.annotations.Nullable;

/**
 * The running engine: lines of a device are recorded into the workbook as they come and shown at once; when it ends the
 * recording is a drive like any other. All methods on the interface thread.
 */
public final class LiveDrive implements AutoCloseable {
    /** Between two looks at how it stands with the device, ms. */
    private static final long LOOK_MS = 250;
    private static final int FEWEST_ROWS = 100;
    /** How many seconds of a practice engine pass in one: tests do not wait for it to settle. */
    private final double pace = Double.parseDouble(System.getProperty("nariz.practice.pace", "1"));

    private final SessionContext context;
    private final Executor toInterface;
    private final LongConsumer open;
    private final ReadOnlyObjectWrapper<LiveReadings.Now> now = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyStringWrapper status = new ReadOnlyStringWrapper("");
    private final ReadOnlyObjectWrapper<BuildSheet> sheet = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<RunningEngine> engine = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyIntegerWrapper marks = new ReadOnlyIntegerWrapper();
    private final IdleWork idle;
    private final BalanceWork balance;
    private final Alarm alarm = new Alarm();
    /** Practice engines: their start and what they really wanted. Nothing that is being read is cancelled for them. */
    private final TaskRunner practising;
    /** Readings of an idle being weighed: that takes longer than a picture may wait. */
    private final TaskRunner weighing;
    /** Counts beginnings, so that one that was given up meanwhile is of no account. */
    private int beginnings;
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(r -> {
        Thread t = new Thread(r, "nariz-live-clock");
        t.setDaemon(true);
        return t;
    });
    private @Nullable Running running;
    private PracticeHand.@Nullable Begun begun;
    private BalanceWork.@Nullable Begun balanceBegun;

    /** One connection, from its beginning to its end. */
    private final class Running {
        private final DeviceSource source;
        private final LiveReadings readings;
        private final Optional<Recordings.Unfinished> kept;
        private final Optional<LiveRecorder> recorder;
        private final @Nullable StandInDevice device;
        private final AtomicBoolean shown = new AtomicBoolean(true);
        private final Future<?> looks;
        private final List<Mark> marks = new ArrayList<>();
        private volatile String trouble = "";
        private volatile boolean over;

        Running(DeviceSource source, LiveReadings readings, Optional<Recordings.Unfinished> kept,
                @Nullable StandInDevice device) {
            this.source = source;
            this.readings = readings;
            this.kept = kept;
            this.device = device;
            recorder = kept.map(u -> new LiveRecorder(lines -> context.repository.record(u, lines)));
            Thread reader = new Thread(this::read, "nariz-live");
            reader.setDaemon(true);
            reader.start();
            looks = clock.scheduleWithFixedDelay(() -> toInterface.execute(this::tell), LOOK_MS, LOOK_MS,
                    TimeUnit.MILLISECONDS);
        }

        private void read() {
            try {
                for (Optional<String> line = source.next(); line.isPresent(); line = source.next()) {
                    String l = line.get();
                    recorder.ifPresent(r -> r.add(l));
                    show(l);
                    // Samples may come faster than pictures are drawn: the latest counts.
                    if (shown.compareAndSet(true, false)) {
                        toInterface.execute(this::show);
                    }
                }
            } catch (IOException | RuntimeException e) {
                trouble = String.valueOf(e.getMessage());
            }
        }

        /** What cannot be shown, because its columns are not understood, is recorded all the same. */
        private void show(String line) {
            if (trouble.isEmpty()) {
                try {
                    synchronized (readings) {
                        readings.add(line);
                    }
                } catch (InputProblem e) {
                    trouble = context.words(e);
                }
            }
        }

        private void show() {
            shown.set(true);
            if (over) {
                return;
            }
            LiveReadings.Now n;
            synchronized (readings) {
                if (!readings.begun()) {
                    return;
                }
                n = readings.now();
            }
            now.set(n);
            alarm.sound(n.lean());
            idle.sample(n);
            balance.sample(n);
        }

        private void tell() {
            if (over) {
                return;
            }
            LineFilter.Tally t = source.tally();
            String how = !trouble.isEmpty() ? trouble : say("live.state-" + source.state().name().toLowerCase(
                    Locale.ROOT), source.name());
            String lost = t.lost() == 0 ? "" : " · " + say("live.lost", t.lost());
            String odd = t.jumps() == 0 ? "" : " · " + say("live.jumps", t.jumps());
            String written = recorder.map(LiveRecorder::trouble).filter(s -> !s.isEmpty()).map(s -> " · " + say(
                    "live.not-written", s)).orElse(kept.isEmpty() ? " · " + say("live.not-kept") : "");
            status.set(how + lost + odd + written);
        }

        void end(boolean open) {
            over = true;
            looks.cancel(false);
            context.storage.queue(c -> {
                // Not on the interface thread: a port may take its time to close.
                close(source);
                recorder.ifPresent(LiveRecorder::close);
                close(device);
                recorder.map(LiveRecorder::trouble).filter(t -> !t.isEmpty()).ifPresent(t -> toInterface.execute(() ->
                        context.complain(say("live.not-written", t))));
                DriveRepository.Recorded done = kept.map(u -> context.repository.recorded(u, source.tally().rows()
                        >= FEWEST_ROWS)).orElse(new DriveRepository.Recorded(List.of(), List.of()));
                done.runs().forEach(r -> context.repository.marked(r, marks));
                return done;
            }, done -> ended(done, open, source.tally().rows()), e -> context.complain(context.words(e)));
        }
    }

    LiveDrive(SessionContext context, Executor toInterface, LongConsumer open) {
        this.context = context;
        this.toInterface = toInterface;
        this.open = open;
        practising = new TaskRunner("nariz-practice", toInterface);
        weighing = new TaskRunner("nariz-idle", toInterface);
        idle = new IdleWork(this);
        balance = new BalanceWork(this);
    }

    /** {@return the readings of this moment, or null while none come} */
    public ReadOnlyObjectProperty<LiveReadings.Now> nowProperty() {
        return now.getReadOnlyProperty();
    }

    /** {@return how it stands with the device, in words; empty when there is none} */
    public ReadOnlyStringProperty statusProperty() {
        return status.getReadOnlyProperty();
    }

    /** {@return what is fitted on the engine that runs, or null when none does} */
    public ReadOnlyObjectProperty<BuildSheet> sheetProperty() {
        return sheet.getReadOnlyProperty();
    }

    /** {@return the practice engine, whose screws are turned here; null where it is a real one} */
    public ReadOnlyObjectProperty<RunningEngine> engineProperty() {
        return engine.getReadOnlyProperty();
    }

    /** {@return setting the idle} */
    public IdleWork idle() {
        return idle;
    }

    /** {@return balancing several carburetors} */
    public BalanceWork balance() {
        return balance;
    }

    /** {@return readings still to be made, with how much of each there is; none while nothing runs} */
    public List<DrivePlan.Item> wanted() {
        return running == null ? List.of() : running.readings.wanted();
    }

    /**
     * Listens to a device on a car that is kept.
     *
     * @param address where the device is
     * @param car the car
     */
    public void connect(String address, Car car) {
        DeviceAddress a;
        try {
            a = DeviceAddress.parse(address);
        } catch (InputProblem e) {
            context.complain(context.words(e));
            return;
        }
        stop(false);
        begin(car.sheet(), null, () -> new DeviceSource(a));
    }

    /**
     * Runs a practice engine of a demo's car and listens to it over this machine's own network.
     *
     * @param demo which car
     * @param seed draws the engine
     * @param level how much is hidden, 1 to 4; 0 has it drive the demo's road in place of idling on the stand
     */
    public void practice(Demo demo, long seed, int level) {
        boolean road = level == 0;
        run(demo, seed, () -> {
            RunningEngine e = road ? null : new RunningEngine(demo.sheet(), seed, seed);
            return new Stand(e, e == null ? null : PracticeUpset.of(e, seed, level), null);
        });
    }

    /**
     * Runs a practice engine whose carburetors are out of balance.
     *
     * @param demo which car; it has several carburetors
     * @param seed draws the engine
     */
    public void practiceBalance(Demo demo, long seed) {
        run(demo, seed, () -> {
            RunningEngine e = new RunningEngine(demo.sheet(), seed, seed);
            // Its mixture is right as it is found.
            e.turnBy(-1, new WhenSettled(e).fastestAt() - e.turns(0));
            BalanceUpset u = BalanceUpset.of(e, seed);
            u.done(e);
            return new Stand(e, PracticeUpset.NONE, new BalanceWork.Begun(u, seed));
        });
    }

    private void run(Demo demo, long seed, Supplier<Stand> made) {
        stop(false);
        context.problem.set("");
        SheetText text = new SheetText(demo.id() + ".json", demo.sheetJson());
        practising.start(c -> {
            Stand s = made.get();
            StandInDevice.Manners m = new StandInDevice.Manners(20, pace, 0, 0, false, true, seed);
            RunningEngine e = s.engine();
            StandInDevice d = e == null ? StandInDevice.on(demo.drive().log(), m) : StandInDevice.on(e, m);
            try {
                return new Listening(s, d, d.listen(0));
            } catch (IOException x) {
                throw InputProblem.unreadable("tcp", x);
            }
        }, l -> {
            Stand s = l.stand();
            engine.set(s.engine());
            begun = s.engine() == null || s.hidden() == null ? null : new PracticeHand.Begun(s.engine(), s.hidden(),
                    seed);
            balanceBegun = s.unbalanced();
            begin(text, l.device(), () -> new DeviceSource(l.address()));
        }, context::fail);
    }

    /** A practice engine, or none where a road is driven, and what was done to it. */
    private record Stand(@Nullable RunningEngine engine, @Nullable PracticeUpset hidden,
            BalanceWork.@Nullable Begun unbalanced) {
    }

    private record Listening(Stand stand, StandInDevice device, DeviceAddress address) {
    }

    /** Makes the source once the workbook is ready. */
    @FunctionalInterface
    private interface Opening {
        DeviceSource open();
    }

    private void begin(SheetText text, @Nullable StandInDevice device, Opening how) {
        BuildSheet s = text.sheet();
        Drive last = context.drive.get();
        List<DrivePlan.Item> items = last != null && last.sheet().name().equals(s.name()) ? last.plan().missing()
                : DrivePlan.of(s).items();
        // Whoever hears of the sheet asks for its screws.
        idle.reset(s, begun);
        balance.reset(s, engine.get(), balanceBegun);
        sheet.set(s);
        status.set(say("live.begins"));
        boolean practised = device != null;
        int mine = ++beginnings;
        context.storage.queue(c -> practised ? Optional.<Recordings.Unfinished>empty() : context.repository
                .beginRecording(text, LiveRecorder.title()), kept -> {
                    if (beginnings == mine) {
                        running = new Running(how.open(), new LiveReadings(s, null, items), kept, device);
                    } else {
                        close(device);
                        kept.ifPresent(this::letGo);
                    }
                }, e -> {
                    sheet.set(null);
                    status.set("");
                    close(device);
                    context.complain(context.words(e));
                });
    }

    /** A recording that was given up before its first line. */
    private void letGo(Recordings.Unfinished u) {
        context.storage.queue(c -> context.repository.recorded(u, false), x -> { }, e -> context.complain(context.words(
                e)));
    }

    /** Runs work on the practice engine beside the interface thread. */
    void beside(Function<BooleanSupplier, String> work, Consumer<String> done) {
        practising.start(work::apply, done, context::fail);
    }

    /**
     * Weighs a reading of the idle beside the interface thread.
     *
     * @param guide that of before; it is not changed
     * @param read what was read
     * @param done receives the guide that has taken it
     */
    void weigh(IdleGuide guide, IdleReading read, Consumer<IdleGuide> done) {
        IdleGuide ahead = guide.copy();
        weighing.start(c -> {
            ahead.read(read);
            ahead.next();
            return ahead;
        }, done, e -> {
            idle.notWeighed();
            context.fail(e);
        });
    }

    /** What is being weighed is of no account any more. */
    void weighNothing() {
        weighing.cancel();
    }

    /** Ends it without opening anything: what was recorded is kept. */
    void leave() {
        stop(false);
    }

    /** Ends it; what was recorded is opened as a drive. */
    public void end() {
        stop(true);
    }

    private void stop(boolean opened) {
        Running r = running;
        running = null;
        beginnings++;
        practising.cancel();
        if (r != null) {
            r.end(opened);
        }
        engine.set(null);
        begun = null;
        balanceBegun = null;
        sheet.set(null);
        now.set(null);
        status.set("");
        marks.set(0);
        idle.reset(null, null);
        balance.reset(null, null, null);
    }

    private void ended(DriveRepository.Recorded done, boolean opened, long rows) {
        if (opened) {
            done.runs().forEach(open::accept);
        }
        if (!done.files().isEmpty()) {
            context.complain(say("live.saved-as", done.files().getFirst()));
        } else if (done.runs().isEmpty() && opened && rows > 0 && rows < FEWEST_ROWS) {
            context.complain(say("live.too-short"));
        }
    }

    /**
     * Words on a moment, which become a note when the recording is a drive.
     *
     * @param atS moment, s
     * @param text words
     */
    record Mark(double atS, String text) {
    }

    /** Marks this moment: a note stands there when the recording is a drive. */
    public void mark() {
        note(say("live.mark", marks.get() + 1));
    }

    /** Writes words on this moment. */
    void note(String words) {
        Running r = running;
        LiveReadings.Now n = now.get();
        if (r != null && n != null) {
            r.marks.add(new Mark(n.timeS(), words));
            marks.set(r.marks.size());
        }
    }

    /** {@return moments marked so far} */
    public ReadOnlyIntegerProperty marksProperty() {
        return marks.getReadOnlyProperty();
    }

    /** Keeps the warning quiet for the moment. */
    public void mute() {
        Running r = running;
        if (r != null) {
            synchronized (r.readings) {
                r.readings.mute();
            }
        }
    }

    private static void close(@Nullable AutoCloseable c) {
        if (c != null) {
            try {
                c.close();
            } catch (Exception e) {
                // It was given up anyway.
            }
        }
    }

    @Override
    public void close() {
        stop(false);
        practising.close();
        weighing.close();
        clock.shutdownNow();
    }
}
