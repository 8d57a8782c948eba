package dev.mockbell.desktop.model;

import dev.mockbell.ledger.Listing;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;

/** Finds operations, cases, suites, exchanges and actions in one list. */
public final class FinderModel {
    /** Something that can be gone to or done. */
    public record Hit(String kind, String title, String detail, Runnable open) {}

    private static final int MOST = 60;

    private final Desk desk;
    private final CallModel call;
    private final CheckModel check;
    private final TrafficModel traffic;
    private final Supplier<List<Hit>> actions;

    /** @param actions what can be done now, with shortcut as detail */
    public FinderModel(Desk desk, CallModel call, CheckModel check, TrafficModel traffic, Supplier<List<Hit>> actions) {
        this.desk = desk;
        this.call = call;
        this.check = check;
        this.traffic = traffic;
        this.actions = actions;
    }

    /** What matches, best first: every word must occur, an earlier occurrence is better. */
    public List<Hit> find(String text) {
        String[] words = text.toLowerCase(Locale.ROOT).strip().split("\\s+");
        record Scored(Hit hit, int score) {}
        List<Scored> found = new ArrayList<>();
        for (Hit hit : all()) {
            String in = (hit.title() + " " + hit.kind() + " " + hit.detail()).toLowerCase(Locale.ROOT);
            int score = 0;
            for (String word : words) {
                int at = in.indexOf(word);
                score = at < 0 || score < 0 ? -1 : score + at;
            }
            if (score >= 0) {
                found.add(new Scored(hit, score));
            }
        }
        if (!text.isBlank()) {
            found.sort(Comparator.comparingInt(Scored::score));
        }
        return found.stream().limit(MOST).map(Scored::hit).toList();
    }

    private List<Hit> all() {
        List<Hit> all = new ArrayList<>();
        for (OperationPlace place : desk.places()) {
            all.add(new Hit("operation", place.key(), place.contract().title(), () -> {
                desk.placeProperty().set(place);
                if (desk.stationProperty().get() != Station.CONTRACT) {
                    desk.go(Station.CALL);
                }
            }));
        }
        for (Case kept : desk.project().cases()) {
            all.add(new Hit("case", kept.title(), kept.operation(), () -> call.goTo(kept)));
        }
        for (Suite suite : desk.project().suites()) {
            all.add(new Hit("suite", suite.title(), suite.steps().size() + " steps", () -> {
                check.open(suite);
                desk.go(Station.CHECK);
            }));
        }
        all.addAll(actions.get());
        for (Listing l : traffic.latest(200)) {
            String detail =
                    Moments.toTheSecond(l.started()) + " · " + (l.status() == 0 ? "no answer" : "status " + l.status())
                            + (l.note().isEmpty() ? "" : " · " + l.note());
            all.add(new Hit(
                    "exchange",
                    l.operation().isEmpty() ? l.endpoint() : l.operation(),
                    detail,
                    () -> traffic.open(l.id())));
        }
        return all;
    }
}
