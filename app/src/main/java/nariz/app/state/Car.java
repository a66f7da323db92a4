package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.time.Instant;
import java.util.List;
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

    /** {@return what was fitted since the last drive, the latest first} */
    public List<PartChange> fittedSince() {
        return logbook.stream().takeWhile(Event.Fitted.class::isInstance).flatMap(e -> ((Event.Fitted) e).changes()
                .stream()).toList();
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
