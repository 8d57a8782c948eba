package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.Round;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.SheetRow.Target;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * Lays the elements in one element beside its content model. The model is deterministic (XML Schema part 1 §3.8.6, unique
 * particle attribution), so taking elements as they come, with no looking back, finds the one reading.
 */
final class ContentLayout {
    /** From how many on rows of one kind are gathered into one that folds. */
    static final int MANY = 20;

    private final RowLayout layout;
    private final SheetRows kept;
    private final Cursor cursor;
    private final boolean mixed;

    /**
     * @param kept gives the rows of the elements below, which may be there already
     * @param mixed whether text may stand between the elements
     */
    ContentLayout(RowLayout layout, SheetRows kept, Cursor cursor, boolean mixed) {
        this.layout = layout;
        this.kept = kept;
        this.cursor = cursor;
        this.mixed = mixed;
    }

    /** Adds the rows of a content model, as far as it has a place for the elements; the cursor stands behind them then. */
    void lay(Particle model, List<SheetRow> rows) {
        particle(model, rows, true, true);
    }

    /**
     * @param wanted whether a place that is not filled gets a row
     * @param needed whether a required one that is not filled is a flaw
     */
    private void particle(Particle particle, List<SheetRow> rows, boolean wanted, boolean needed) {
        if (particle instanceof Particle.OfElement e) {
            elements(e, rows, wanted, needed);
        } else if (particle instanceof Particle.OfAny any) {
            wildcard(any, rows, wanted, needed);
        } else {
            group((Particle.OfGroup) particle, rows, wanted, needed);
        }
    }

    private void wildcard(Particle.OfAny any, List<SheetRow> rows, boolean wanted, boolean needed) {
        int taken = 0;
        while (cursor.offered() != null && any.occurs().allows(taken) && allows(any, cursor.offered())) {
            Element found = cursor.take();
            layout.texts(found.getPreviousSibling(), cursor.parent, mixed, rows);
            ElementDecl declared = any.processing() == Particle.Processing.SKIP
                    ? null
                    : layout.global(found).orElse(null);
            Seat seat = new Seat(
                    declared,
                    any.occurs(),
                    cursor.number(found),
                    cursor.like(found),
                    cursor.place(found.getLocalName()),
                    Standing.FREE);
            SheetRow row = kept.element(seat, found);
            rows.add(RowJudge.strange(any, declared)
                    .map(why -> kept.flawed(row, why, false))
                    .orElse(row));
            taken++;
        }
        if (taken == 0 && wanted && any.occurs().max() != 0) {
            String place = cursor.place("*");
            rows.add(new RowDraft(place, Kind.WILDCARD, Standing.FREE.words())
                    .state(State.LEFT_OUT)
                    .type("any".equals(any.namespaces()) ? "of any namespace" : "of " + any.namespaces())
                    .occurs(any.occurs())
                    .number(0, 0)
                    .problem(RowJudge.empty(any, needed))
                    .at(Target.of(cursor.parent, cursor.next(), null, place).holding(List.of(), List.of(any))));
        }
    }

    private static boolean allows(Particle.OfAny any, Element element) {
        return any.allows(element.getNamespaceURI() == null ? "" : element.getNamespaceURI());
    }

    private void group(Particle.OfGroup group, List<SheetRow> rows, boolean wanted, boolean needed) {
        int start = rows.size();
        int begin = cursor.position();
        List<int[]> spans = new ArrayList<>();
        int round = 0;
        do {
            Element before = cursor.offered();
            int from = cursor.position();
            int first = rows.size();
            boolean standing = before != null && stands(group);
            boolean need =
                    standing || needed && round < Math.max(0, group.occurs().min());
            switch (group.compositor()) {
                case SEQUENCE -> {
                    boolean show = wanted && (standing || round == 0);
                    // what could only stand behind a part that is not there is somebody else's
                    boolean was = cursor.close(cursor.fits() && !standing);
                    group.parts().forEach(p -> particle(p, rows, show, need));
                    cursor.close(was);
                }
                case CHOICE -> choice(group, rows, wanted && round == 0, need);
                case ALL -> all(group, rows, wanted, need);
            }
            spans.add(new int[] {first, rows.size(), from, cursor.position()});
            round++;
            if (cursor.offered() == before) {
                break;
            }
        } while (group.occurs().allows(round) && cursor.offered() != null && stands(group));
        rounds(group, rows, spans);
        if (cursor.position() > begin && !group.occurs().equals(Occurs.ONCE)) {
            counted(group, cursor.taken(begin), round, rows.subList(start, rows.size()));
        }
        if (round > MANY) {
            gather(SheetShape.title(group), group.occurs(), round, rows, start);
        }
    }

    /**
     * Judges how often a group stands. Its elements were taken as they came; where that looks like too few of something,
     * they may still be divided among its standings so that all is well.
     */
    private void counted(Particle.OfGroup group, List<Node> taken, int rounds, List<SheetRow> rows) {
        boolean tooFew = rounds < group.occurs().min();
        boolean lacking = rows.stream().anyMatch(kept::lacksSome);
        if (!tooFew && !lacking) {
            return;
        }
        if (ContentMatch.matches(group, taken)) {
            rows.replaceAll(r -> kept.lacksSome(r) ? kept.unflawed(r) : r);
            return;
        }
        int last = rows.size() - 1;
        while (rows.get(last).state() == State.LEFT_OUT || rows.get(last).kind() == Kind.TEXT) {
            last--;
        }
        boolean told = lacking
                || rows.stream()
                        .anyMatch(
                                r -> r.state() == State.LEFT_OUT && r.problem().isPresent());
        if (tooFew && !told) {
            rows.set(last, kept.flawed(rows.get(last), RowJudge.tooFew(group, rounds), true));
        }
    }

    /** Tells the rows of a group that may go or repeat which standing of it they belong to. */
    private void rounds(Particle.OfGroup group, List<SheetRow> rows, List<int[]> spans) {
        boolean plain = group.occurs().equals(Occurs.ONCE) || group.compositor() == Particle.Compositor.CHOICE;
        if (plain) {
            return;
        }
        for (int i = 0; i < spans.size(); i++) {
            int[] span = spans.get(i);
            Round standing = new Round(group, i, spans.size(), cursor.taken(span[2], span[3]));
            for (int r = span[0]; r < span[1]; r++) {
                if (rows.get(r).target().round().isEmpty() && rows.get(r).kind() != Kind.TEXT) {
                    rows.set(r, rows.get(r).at(rows.get(r).target().in(standing)));
                }
            }
        }
    }

    private void gather(String label, Occurs occurs, int count, List<SheetRow> rows, int start) {
        List<SheetRow> gathered = new ArrayList<>(rows.subList(start, rows.size()));
        rows.subList(start, rows.size()).clear();
        rows.add(gathered(label, occurs, count, gathered.get(0), gathered));
    }

    private SheetRow gathered(String label, Occurs occurs, int count, SheetRow first, List<SheetRow> rows) {
        String place = cursor.place(label + "*");
        return new RowDraft(place, Kind.REPEATS, label)
                .type(first.type())
                .occurs(occurs)
                .number(0, count)
                .documentation(first.documentation())
                .over(rows)
                .at(Target.of(cursor.parent, null, null, place)
                        .declared(first.target().element().orElse(null)));
    }

    private void all(Particle.OfGroup group, List<SheetRow> rows, boolean wanted, boolean needed) {
        List<Particle> open = new ArrayList<>(group.parts());
        while (cursor.offered() != null) {
            Optional<Particle> part = open.stream().filter(this::stands).findFirst();
            if (part.isEmpty()) {
                break;
            }
            open.remove(part.get());
            particle(part.get(), rows, wanted, needed);
        }
        open.forEach(p -> particle(p, rows, wanted, needed));
    }

    private void choice(Particle.OfGroup group, List<SheetRow> rows, boolean wanted, boolean needed) {
        if (group.parts().isEmpty()) {
            return;
        }
        Optional<Particle> taken = cursor.offered() == null
                ? Optional.empty()
                : group.parts().stream().filter(this::stands).findFirst();
        if (taken.isEmpty() && !wanted) {
            return;
        }
        List<SheetRow> inside = new ArrayList<>();
        int from = cursor.position();
        taken.ifPresent(p -> particle(p, inside, true, true));
        List<String> names = group.parts().stream().map(SheetShape::title).toList();
        String place = cursor.place(String.join("|", names));
        rows.add(new RowDraft(place, Kind.CHOICE, "one of")
                .state(taken.isPresent() ? State.PRESENT : State.LEFT_OUT)
                .value(taken.map(SheetShape::title).orElse(""))
                .type(String.join(" | ", names))
                .occurs(group.occurs())
                .problem(taken.isPresent() ? Optional.empty() : RowJudge.untaken(group, needed))
                .options(names)
                .over(inside)
                .at(Target.of(cursor.parent, cursor.next(), null, place).holding(cursor.taken(from), group.parts())));
    }

    private void elements(Particle.OfElement particle, List<SheetRow> rows, boolean wanted, boolean needed) {
        ElementDecl declared = particle.element();
        Occurs occurs = particle.occurs();
        List<Element> found = new ArrayList<>();
        while (cursor.offered() != null
                && occurs.allows(found.size())
                && ElementMatch.matches(declared, cursor.offered())) {
            found.add(cursor.take());
        }
        String label = declared.name().getLocalPart();
        String place = cursor.place(label);
        if (found.isEmpty()) {
            if (wanted && occurs.max() != 0) {
                rows.add(leftOut(declared, occurs, place, needed));
            }
            return;
        }
        boolean lacking = found.size() < occurs.min() && !cursor.fits();
        if (!lacking && layout.isLater(found.size())) {
            SheetRow first =
                    rowsOf(particle, found.subList(0, 1), found.size(), place).get(0);
            rows.add(gathered(
                    label,
                    occurs,
                    found.size(),
                    first,
                    layout.later(() -> rowsOf(particle, found, found.size(), place))));
            return;
        }
        int start = rows.size();
        rows.addAll(rowsOf(particle, found, found.size(), place));
        if (found.size() < occurs.min() && !cursor.fits()) {
            int last = rows.size() - 1;
            rows.set(last, kept.flawed(rows.get(last), RowJudge.tooFew(occurs, found.size()), true));
        }
        if (found.size() > MANY) {
            gather(label, occurs, found.size(), rows, start);
        }
    }

    /** @param count how many there are of them in all */
    private List<SheetRow> rowsOf(Particle.OfElement particle, List<Element> found, int count, String place) {
        List<SheetRow> rows = new ArrayList<>(found.size());
        boolean numbered = particle.occurs().repeats() && count > 1;
        for (int i = 0; i < found.size(); i++) {
            Seat seat = new Seat(
                    particle.element(), particle.occurs(), numbered ? i + 1 : 0, count, place, Standing.DECLARED);
            // rows may be laid out by several at once, each a few at a time
            synchronized (layout) {
                layout.texts(found.get(i).getPreviousSibling(), cursor.parent, mixed, rows);
                rows.add(kept.element(seat, found.get(i)));
            }
        }
        return rows;
    }

    private SheetRow leftOut(ElementDecl declared, Occurs occurs, String place, boolean needed) {
        RowValues.Look look = layout.look(declared.type());
        boolean text = declared.type().content() == TypeDef.Content.TEXT;
        return new RowDraft(
                        place, text ? Kind.VALUE : Kind.GROUP, declared.name().getLocalPart())
                .state(State.LEFT_OUT)
                .type(look.summary())
                .occurs(occurs)
                .number(0, 0)
                .problem(RowJudge.leftOut(occurs, needed))
                .documentation(declared.documentation())
                .at(Target.of(cursor.parent, cursor.next(), null, place)
                        .declared(declared)
                        .typed(look.simple()));
    }

    /**
     * Whether the next element begins a standing of the particle. Where something is amiss among the elements, any that it
     * has a place for does, so that the rest of a group stays together when its first part is missing.
     */
    private boolean stands(Particle particle) {
        return SheetShape.starts(particle, cursor.next()) || !cursor.fits() && SheetShape.has(particle, cursor.next());
    }
}
