package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.EffectChart;
import nariz.app.chart.Plane;
import nariz.app.state.Session;

/**
 * What one acts on, as high as the window: the card, the sizes being tried, another drive, the list to record. What a
 * change does stands over the card and over the sizes, where it decides, and can be folded away.
 */
final class WorkColumn extends VBox {
    static final String CARD = "card";
    static final String TRY = "try";
    static final String COMPARE = "compare";
    static final String RECORD = "plan";
    /** Share of the window's width, and the narrowest and widest it gets, px. */
    private static final double SHARE = 0.385;
    private static final double NARROWEST = 372;
    private static final double WIDEST = 660;
    /** Height of the effect where the card does not need the room, px; where it does, the effect has its least. */
    private static final double TALL = 226;
    /** Left free, so that a card that just fits does not get a scroll bar, px. */
    private static final double SLACK = 12;

    private final Choice choice = new Choice(say("main-window.side-panel"));
    private final WorkCardPanel card;
    private final EffectChart effect;
    private final ToggleButton fold = new ToggleButton(say("work-column.effect"));

    WorkColumn(Session session, FilePicker picker, Plane plane) {
        super(6);
        card = new WorkCardPanel(session, picker);
        effect = new EffectChart(session);
        effect.setId("effect");
        setId("work-column");
        choice.add(say("main-window.card"), CARD, say("main-window.what-to-do-at"), card);
        choice.add(say("main-window.try-parts"), TRY, say("main-window.drag-parts-along-their"), new TryPanel(session));
        choice.add(say("main-window.compare"), COMPARE, say("main-window.against-another-drive-of"),
                new ComparePanel(session));
        PlanPanel plan = new PlanPanel(session);
        choice.add(say("main-window.record"), RECORD, say("main-window.readings-this-drive-lacks"), plan);
        plane.planShownProperty().bind(plan.visibleProperty());
        fold.setId("fold-effect");
        fold.setSelected(true);
        fold.setAccessibleText(say("work-column.effect-help"));
        fold.setTooltip(new Tooltip(say("work-column.effect-help")));
        fold.setOnAction(e -> arrange());
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        choice.bar().getChildren().addAll(space, fold);
        choice.onChange(this::arrange);
        VBox.setVgrow(choice, Priority.ALWAYS);
        getChildren().addAll(choice.bar(), effect, choice);
        arrange();
        card.content().heightProperty().addListener(o -> share());
        card.heightProperty().addListener(o -> share());
    }

    /** A short card leaves its room to the effect. */
    private void share() {
        double all = card.getHeight() + effect.getHeight();
        double high = CARD.equals(choice.shown()) && effect.isVisible() ? Math.rint(Math.clamp(all - card.wanted()
                - SLACK, effect.getMinHeight(), TALL)) : effect.getMinHeight();
        if (Math.abs(high - effect.getPrefHeight()) > 1.0) {
            effect.setPrefHeight(high);
        }
    }

    /** The effect belongs to the card and to the parts being tried. */
    private void arrange() {
        boolean ofParts = CARD.equals(choice.shown()) || TRY.equals(choice.shown());
        fold.setVisible(ofParts);
        effect.setVisible(ofParts && fold.isSelected());
        effect.setManaged(effect.isVisible());
        share();
    }

    /** Folds the effect away, or shows it again. */
    void foldEffect() {
        fold.setSelected(!fold.isSelected());
        arrange();
    }

    /** As wide as a window of this width has room for. */
    void fit(double window) {
        double w = Math.clamp(SHARE * window, NARROWEST, WIDEST);
        setMinWidth(w);
        setPrefWidth(w);
        setMaxWidth(w);
    }

    Choice choice() {
        return choice;
    }

    WorkCardPanel card() {
        return card;
    }

    EffectChart effect() {
        return effect;
    }
}
