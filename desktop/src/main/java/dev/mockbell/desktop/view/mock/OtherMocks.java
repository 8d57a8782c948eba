package dev.mockbell.desktop.view.mock;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.project.KeptContract;
import java.util.List;
import java.util.Optional;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** The mocks of the project's other contracts: which are up, and where; a click leads there. */
final class OtherMocks extends VBox {
    private static final double ROW = 26;
    private static final int MOST = 4;

    private final MocksModel model;
    private final Desk desk;
    private final Grid<KeptContract> others = new Grid<>(ROW);
    private boolean showing;

    OtherMocks(Models models) {
        this.model = models.mocks();
        this.desk = models.desk();
        others.growing("Contract", this::name).number("Port", 56, k -> Parts.text(port(k), "mono", "third"));
        others.setId("mock-others");
        others.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && !showing) {
                // later: it leaves this list for the one that was looked at, which cannot be while it is being chosen
                Platform.runLater(() -> model.look(now));
            }
        });
        getChildren().setAll(Parts.innerHead("Other mocks"), others);
    }

    private Node name(KeptContract kept) {
        boolean up = model.host(kept.name()).isPresent();
        Label label = Parts.marked(up ? Mark.PASSED : Mark.NOT_RUN, kept.title(), "table-text");
        Parts.tip(label, up ? "Up" : "Down");
        label.setMinWidth(0);
        return label;
    }

    private String port(KeptContract kept) {
        return model.host(kept.name())
                .map(MockHost::port)
                .or(() -> desk.project().mock(kept.name()).map(MockPlan::port))
                .map(String::valueOf)
                .orElse("–");
    }

    void show() {
        Optional<KeptContract> here =
                Optional.ofNullable(model.contractProperty().get());
        List<KeptContract> now = desk.project().contracts().stream()
                .filter(k -> here.filter(h -> h.name().equals(k.name())).isEmpty())
                .toList();
        showing = true;
        if (!List.copyOf(others.items()).equals(now)) {
            others.items().setAll(now);
        } else {
            others.refresh();
        }
        others.list().getSelectionModel().clearSelection();
        showing = false;
        double high = ROW * Math.min(MOST, now.size()) + ROW + 2;
        others.setMinHeight(high);
        others.setMaxHeight(high);
        Parts.shown(this, !now.isEmpty());
    }
}
