package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.PartChange;
import nariz.diagnosis.AdviceSummary;
import nariz.diagnosis.Verdict;
import nariz.text.Message;

/**
 * A car of the workbook.
 *
 * @param id key in the workbook
 * @param name as its build sheet calls it
 * @param sheet its newest build sheet
 * @param logbook drives and what was fitted, the latest first
 */
public record Car(long id, String name, SheetText sheet, List<Event> logbook) {
    /** Two sizes nearer than this are one, in the part's unit. */
    private static final double SAME = 1e-6;

    /** Copies the list. */
    public Car {
        logbook = List.copyOf(logbook);
    }

    /** Something that happened to a car. */
    public sealed interface Event {
        /** {@return when} */
        Instant at();

        /** {@return what, in one line} */
        String words();

        /**
         * A drive that is kept.
         *
         * @param entry the drive
         * @param advice what it came to; empty where no advice is kept with it
         */
        record Driven(DriveRepository.Entry entry, Optional<AdviceSummary> advice) implements Event {
            @Override
            public Instant at() {
                return entry.imported();
            }

            @Override
            public String words() {
                return say("car.driven", entry.name(), Math.round(entry.durationS() / 60), advice.map(a -> say("car."
                        + a.verdict().key())).orElse(""));
            }
        }

        /**
         * A newer sheet.
         *
         * @param at when it was kept
         * @param changes what differs from the one before; empty where it is no part
         */
        record Fitted(Instant at, List<PartChange> changes) implements Event {
            /** Copies the list. */
            public Fitted {
                changes = List.copyOf(changes);
            }

            @Override
            public String words() {
                return changes.isEmpty() ? say("car.sheet-changed") : say("car.fitted", titles(changes));
            }
        }
    }

    private static Message titles(List<PartChange> changes) {
        return Message.join("; ", changes.stream().map(PartChange::text).toList());
    }

    /** {@return the drive that was read last} */
    public Optional<Event.Driven> lastDrive() {
        return logbook.stream().filter(Event.Driven.class::isInstance).map(Event.Driven.class::cast).findFirst();
    }

    /** {@return drives, the latest first} */
    public List<DriveRepository.Entry> drives() {
        return logbook.stream().filter(Event.Driven.class::isInstance).map(e -> ((Event.Driven) e).entry()).toList();
    }

    /** {@return what is fitted against the last drive, each part once; what was taken off again is not in it} */
    public List<PartChange> fittedSince() {
        Map<String, PartChange> net = new LinkedHashMap<>();
        logbook.stream().takeWhile(Event.Fitted.class::isInstance).toList().reversed().stream().flatMap(e ->
                ((Event.Fitted) e).changes().stream()).forEach(c -> net.merge(c.side().key() + c.part().key(), c,
                        (first, last) -> new PartChange(c.part(), c.side(), first.from(), last.to())));
        return net.values().stream().filter(c -> Math.abs(c.to() - c.from()) > SAME).toList();
    }

    /**
     * Whether a part was fitted since the last drive.
     *
     * @param change part and size
     * @return true where the newest sheet has it for that reason
     */
    public boolean fitted(PartChange change) {
        return fittedSince().stream().anyMatch(c -> c.part().equals(change.part()) && c.side() == change.side()
                && Math.abs(c.to() - change.to()) < SAME);
    }

    /** {@return how far the tune is, in a line} */
    public String state() {
        if (!fittedSince().isEmpty()) {
            return say("car.fitted-not-driven", titles(fittedSince()));
        }
        return lastDrive().map(d -> d.advice().map(a -> say("car." + a.verdict().key())).orElseGet(() -> say(
                "car.read"))).orElseGet(() -> say("car.no-drive"));
    }

    /** {@return what comes next, in a line} */
    public String next() {
        if (!fittedSince().isEmpty()) {
            return say("car.next-same-road");
        }
        Optional<AdviceSummary> a = lastDrive().flatMap(Event.Driven::advice);
        if (a.isEmpty()) {
            return say("car.next-drive");
        }
        if (a.get().verdict() == Verdict.CHANGE && !a.get().changes().isEmpty()) {
            return say("car.next-change", titles(a.get().changes()));
        }
        return say("car.next-" + a.get().verdict().key());
    }
}
