package dev.mockbell.desktop.model;

import dev.mockbell.guide.Guide;
import dev.mockbell.guide.GuidePage;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/** The guide, a page of which is open. Used on the interface thread; pages are read elsewhere. */
public final class GuideModel {
    private final Desk desk;
    private final Guide guide = new Guide();
    private final ReadOnlyObjectWrapper<GuidePage> page = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<Guide.Entry>> contents = new ReadOnlyObjectWrapper<>(List.of());
    private final Deque<String> before = new ArrayDeque<>();

    GuideModel(Desk desk) {
        this.desk = desk;
    }

    /** The page that is open; null until one is read. */
    public ReadOnlyObjectProperty<GuidePage> pageProperty() {
        return page.getReadOnlyProperty();
    }

    /** The pages there are; none until they are read. */
    public ReadOnlyObjectProperty<List<Guide.Entry>> contentsProperty() {
        return contents.getReadOnlyProperty();
    }

    /** Opens the page of a station. */
    public void open(Station station) {
        before.clear();
        show(
                switch (station) {
                    case CONTRACT -> desk.project().contracts().isEmpty() ? "first-steps" : "contracts";
                    case CALL -> "calling";
                    case CHECK -> "checking";
                    case MOCK -> "mocking";
                    case TRAFFIC -> "traffic";
                    case LOAD -> "load";
                });
    }

    /** Opens another page; the one that was open can be gone back to. */
    public void follow(String name) {
        GuidePage from = page.get();
        if (from != null && !from.name().equals(name)) {
            before.push(from.name());
        }
        show(name);
    }

    /** Goes back to the page that was open before; nothing happens where there is none. */
    public void back() {
        if (!before.isEmpty()) {
            show(before.pop());
        }
    }

    /** Whether there is a page to go back to. */
    public boolean canGoBack() {
        return !before.isEmpty();
    }

    private void show(String name) {
        desk.tasks()
                .run(
                        () -> {
                            List<Guide.Entry> all = guide.contents();
                            GuidePage read = guide.page(name);
                            return new Read(all, read);
                        },
                        read -> {
                            contents.set(read.contents());
                            page.set(read.page());
                        },
                        desk::tell);
    }

    private record Read(List<Guide.Entry> contents, GuidePage page) {}
}
