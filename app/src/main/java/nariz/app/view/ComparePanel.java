package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Comparison;
import nariz.app.state.Session;
import nariz.comparison.Difference;
import nariz.comparison.TrialSeries;

/** The open drive against another of the same car: which one, what differs and where it matters. */
final class ComparePanel extends ScrollPane {
    private final Session session;
    private final ComboBox<Comparison.Other> other = new ComboBox<>();
    private final VBox found = new VBox(6);
    private final Button again;

    ComparePanel(Session session) {
        this.session = session;
        getStyleClass().add("work-card");
        setId("compare-panel");
        setFitToWidth(true);
        setHbarPolicy(ScrollBarPolicy.NEVER);
        setAccessibleText(say("compare-panel.compare-with-another-drive"));
        Label hint = line(say("compare-panel.steady-running-of-both"), "small");
        other.setId("compare-with");
        other.setPromptText(say("compare-panel.another-drive-of-this"));
        other.setAccessibleText(say("compare-panel.drive-to-compare-with"));
        other.setMaxWidth(Double.MAX_VALUE);
        other.setConverter(new StringConverter<>() {
            @Override
            public String toString(Comparison.Other o) {
                return o == null ? "" : o.label();
            }

            @Override
            public Comparison.Other fromString(String s) {
                return null;
            }
        });
        other.setOnShowing(e -> offer());
        Button compare = MainWindow.button(say("compare-panel.compare"), "compare-go",
                say("compare-panel.compare-the-open-drive"),
                this::compare);
        Button end = MainWindow.button(say("compare-panel.put-away"), "compare-end",
                say("compare-panel.show-the-open-drive"),
                session.comparisons()::endComparison);
        end.disableProperty().bind(session.comparisons().comparisonProperty().isNull().and(session.comparisons()
                .seriesProperty().isNull()));
        Button together = MainWindow.button(say("compare-panel.lay-together"), "series-go",
                say("compare-panel.lay-together-help"), session.comparisons()::layTogether);
        again = MainWindow.button(say("compare-panel.drive-again-with-these"), "drive-again",
                say("compare-panel.simulate-the-demo-s"), session.open()::again);
        VBox content = new VBox(8, line(say("compare-panel.compare"), "card-heading"), hint, other, new HBox(8,
                compare, end), again, together, found);
        content.getStyleClass().add("work-card-content");
        setContent(content);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            offer();
            other.getSelectionModel().selectFirst();
        });
        WeakListeners.attach(session.garage().keptProperty(), this, (o, was, is) -> offer());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> show(is));
        WeakListeners.attach(session.comparisons().seriesProperty(), this, (o, was, is) -> show(is));
        offer();
        show((Comparison) null);
    }

    private void show(TrialSeries s) {
        found.getChildren().clear();
        if (s == null) {
            show(session.comparisons().comparisonProperty().get());
            return;
        }
        found.getChildren().add(line(say(s.sentence()), "card-line"));
        for (int k = 0; k < s.trials().size(); k++) {
            TrialSeries.Trial t = s.trials().get(k);
            found.getChildren().add(line(say("compare-panel.trial", k == s.best() ? "●" : "○", say(s.part().text(t
                    .size())), t.name(), t.score()), k == s.best() ? "card-line" : "small"));
        }
        s.warnings().forEach(w -> found.getChildren().add(line("! " + say(w), "caution")));
        found.getChildren().add(line(say(s.part().role().pump() ? "compare-panel.score-pump"
                : "compare-panel.score"), "small"));
    }

    private void offer() {
        List<Comparison.Other> all = session.comparisons().others();
        if (!all.equals(other.getItems())) {
            other.getItems().setAll(all);
            other.getSelectionModel().selectFirst();
        }
        again.setVisible(session.open().practice());
        again.setManaged(again.isVisible());
    }

    private void compare() {
        Comparison.Other o = other.getSelectionModel().getSelectedItem();
        if (o == null) {
            session.complain(say("compare-panel.there-is-no-other"));
        } else {
            session.comparisons().compareWith(o);
        }
    }

    private void show(Comparison c) {
        found.getChildren().clear();
        if (c == null) {
            return;
        }
        found.getChildren().add(line(c.sentence(), "card-line"));
        for (Difference d : c.result().differences()) {
            String predicted = Double.isNaN(d.predicted()) ? "" : String.format(java.util.Locale.ROOT,
                    say("compare-panel.predicted"), 100 * d.predicted());
            found.getChildren().add(line(String.format(java.util.Locale.ROOT,
                    say("compare-panel.to-s"), d.matters() ? d.mean() > 0 ? "▲" : "▼" : "•",
                    d.regime().label(), 100 * d.mean(), 100 * d.low(), 100 * d.high(), predicted, d.seconds()),
                    d.matters() ? "card-line" : "small"));
        }
        c.remarks().forEach(r -> found.getChildren().add(line(r, "small")));
    }

    private static Label line(String text, String style) {
        Label l = new Label(text);
        l.getStyleClass().add(style);
        l.setWrapText(true);
        return l;
    }
}
