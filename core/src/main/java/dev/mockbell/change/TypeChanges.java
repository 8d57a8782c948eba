package dev.mockbell.change;

import dev.mockbell.change.ContractChange.Kind;
import dev.mockbell.change.Fields.Field;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.Likeness;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import javax.xml.namespace.QName;

/**
 * In what types became others. Each pair is compared once, wherever it stands; a type that holds itself is compared where it
 * stands first.
 */
final class TypeChanges {
    /** Details of one type that are kept; more are said to be more. */
    private static final int MOST = 200;

    /** How like the names of two fields must be for one to have become the other. */
    private static final double LIKE = 0.55;

    private record Pair(TypeDef was, TypeDef is) {}

    private final Map<Pair, List<Detail>> known = new HashMap<>();
    private final StopSignal stop;

    TypeChanges(StopSignal stop) {
        this.stop = stop;
    }

    /** In what an element became another, its name aside. */
    List<Detail> of(ElementDecl was, ElementDecl is, Occurs often, Occurs oftenNow) {
        List<Detail> found = new ArrayList<>();
        List<Aspect> aspects = new ArrayList<>();
        occurs(often, oftenNow, aspects);
        nil(was, is, aspects);
        fixed(was.fixed(), is.fixed(), was.byDefault(), is.byDefault(), aspects);
        TypeDef before = was.type();
        TypeDef after = is.type();
        if (isValue(before) && isValue(after)) {
            aspects.addAll(ValueChanges.of(
                    before.simple().orElseThrow(), after.simple().orElseThrow()));
        }
        self(aspects, was.place(), is.place()).ifPresent(found::add);
        found.addAll(of(before, after));
        found.addAll(others(was, is));
        return cut(found);
    }

    private static Optional<Place> placeOf(ElementDecl element, boolean ofType) {
        return ofType ? element.type().place().or(element::place) : element.place();
    }

    private static boolean isValue(TypeDef type) {
        return type.simple().isPresent();
    }

    private static Optional<Detail> self(List<Aspect> aspects, Optional<Place> was, Optional<Place> is) {
        if (aspects.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(new Detail(
                "",
                Kind.CHANGED,
                joined(aspects, Aspect::before),
                joined(aspects, Aspect::after),
                Aspect.relation(aspects),
                was,
                is));
    }

    private static String joined(List<Aspect> aspects, Function<Aspect, String> half) {
        return String.join(
                " · ", aspects.stream().map(half).filter(w -> !w.isEmpty()).toList());
    }

    private static void occurs(Occurs was, Occurs is, List<Aspect> into) {
        if (was.equals(is)) {
            return;
        }
        boolean holds = is.min() <= was.min() && isAtLeast(is.max(), was.max());
        boolean held = was.min() <= is.min() && isAtLeast(was.max(), is.max());
        into.add(new Aspect(Words.often(was), Words.often(is), Relation.of(holds, held)));
    }

    private static boolean isAtLeast(int one, int other) {
        return one == Occurs.UNBOUNDED || other != Occurs.UNBOUNDED && one >= other;
    }

    private static void nil(ElementDecl was, ElementDecl is, List<Aspect> into) {
        if (was.nillable() != is.nillable()) {
            into.add(new Aspect(
                    was.nillable() ? "may be nil" : "never nil",
                    is.nillable() ? "may be nil" : "never nil",
                    is.nillable() ? Relation.WIDER : Relation.NARROWER));
        }
    }

    private static void fixed(
            Optional<String> fixed,
            Optional<String> fixedNow,
            Optional<String> byDefault,
            Optional<String> byDefaultNow,
            List<Aspect> into) {
        if (!fixed.equals(fixedNow)) {
            Relation relation = Relation.of(fixedNow.isEmpty(), fixed.isEmpty());
            into.add(new Aspect(
                    fixed.map(v -> "always " + v).orElse("any value"),
                    fixedNow.map(v -> "always " + v).orElse("any value"),
                    relation));
        }
        if (!byDefault.equals(byDefaultNow)) {
            // what is left out means something else: messages stay valid and say another thing
            into.add(new Aspect(
                    byDefault.map(v -> v + " when left out").orElse("nothing when left out"),
                    byDefaultNow.map(v -> v + " when left out").orElse("nothing when left out"),
                    Relation.UNKNOWN));
        }
    }

    private List<Detail> of(TypeDef was, TypeDef is) {
        Pair pair = new Pair(was, is);
        List<Detail> done = known.get(pair);
        if (done == null) {
            stop.check();
            // a type within itself finds nothing new there
            known.put(pair, List.of());
            done = cut(compared(was, is));
            known.put(pair, done);
        }
        return done;
    }

    private List<Detail> compared(TypeDef was, TypeDef is) {
        List<Detail> found = new ArrayList<>();
        if (was.isAny() || is.isAny()) {
            if (was.isAny() != is.isAny()) {
                found.add(changed(
                        "", Words.type(was), Words.type(is), is.isAny() ? Relation.WIDER : Relation.NARROWER, was, is));
            }
            return found;
        }
        if (isValue(was) != isValue(is)) {
            found.add(changed("", Words.type(was), Words.type(is), Relation.OTHER, was, is));
            return found;
        }
        if (was.content() != is.content()
                && (was.content() == TypeDef.Content.MIXED || is.content() == TypeDef.Content.MIXED)) {
            boolean mixed = is.content() == TypeDef.Content.MIXED;
            found.add(changed(
                    "",
                    mixed ? "elements alone" : "text between elements",
                    mixed ? "text between elements" : "elements alone",
                    mixed ? Relation.WIDER : Relation.NARROWER,
                    was,
                    is));
        }
        fields(was, is, found);
        attributes(was, is, found);
        if (!isValue(was)) {
            // nearly every simple type may stand for a string, which nobody writes down
            derived(was, is, found);
        }
        return found;
    }

    private static Detail changed(
            String path, String before, String after, Relation relation, TypeDef was, TypeDef is) {
        return new Detail(path, Kind.CHANGED, before, after, relation, was.place(), is.place());
    }

    private void fields(TypeDef was, TypeDef is, List<Detail> found) {
        Map<QName, Field> before = Fields.of(was.particle());
        Map<QName, Field> after = Fields.of(is.particle());
        Map<QName, QName> now = paired(before, after);
        Relation said = Relation.SAME;
        for (Map.Entry<QName, Field> entry : before.entrySet()) {
            Field old = entry.getValue();
            String name = entry.getKey().getLocalPart();
            QName other = now.get(entry.getKey());
            if (other == null) {
                Detail gone = new Detail(
                        name,
                        Kind.GONE,
                        Words.field(old),
                        ContractChange.NOT_THERE,
                        old.occurs().optional() ? Relation.NARROWER : Relation.OTHER,
                        old.element().place(),
                        is.place());
                found.add(gone);
                said = said.and(gone.relation());
                continue;
            }
            Field fresh = after.get(other);
            if (!other.getLocalPart().equals(name)) {
                found.add(new Detail(
                        name,
                        Kind.RENAMED,
                        Words.field(old),
                        "renamed " + other.getLocalPart() + "?",
                        Relation.OTHER,
                        old.element().place(),
                        fresh.element().place()));
                said = said.and(Relation.OTHER);
            } else if (!other.equals(entry.getKey())) {
                found.add(new Detail(
                        name,
                        Kind.CHANGED,
                        Words.namespace(entry.getKey()),
                        Words.namespace(other),
                        Relation.OTHER,
                        old.element().place(),
                        fresh.element().place()));
            }
            for (Detail d : of(old.element(), fresh.element(), old.occurs(), fresh.occurs())) {
                found.add(d.under(name));
            }
            if (!old.occurs().equals(fresh.occurs())) {
                List<Aspect> often = new ArrayList<>();
                occurs(old.occurs(), fresh.occurs(), often);
                said = said.and(Aspect.relation(often));
            }
        }
        for (Map.Entry<QName, Field> entry : after.entrySet()) {
            if (!now.containsValue(entry.getKey())) {
                Field fresh = entry.getValue();
                Relation relation = fresh.occurs().optional() ? Relation.WIDER : Relation.OTHER;
                found.add(new Detail(
                        entry.getKey().getLocalPart(),
                        Kind.ADDED,
                        ContractChange.NOT_THERE,
                        Words.field(fresh),
                        relation,
                        was.place(),
                        fresh.element().place()));
                said = said.and(relation);
            }
        }
        order(was, is, now, said, found);
    }

    /** What the fields do not tell: their order, choices, wildcards, groups that repeat. */
    private static void order(TypeDef was, TypeDef is, Map<QName, QName> now, Relation said, List<Detail> found) {
        Map<QName, QName> back = new HashMap<>();
        now.forEach((old, fresh) -> {
            // a renamed field is another one, one of another namespace is told as that
            if (old.getLocalPart().equals(fresh.getLocalPart())) {
                back.put(fresh, old);
            }
        });
        ContentModel before = ContentModel.of(was.particle(), n -> n);
        ContentModel after = ContentModel.of(is.particle(), n -> back.getOrDefault(n, n));
        Relation all = Inclusion.between(before, after);
        boolean told = all == Relation.UNKNOWN ? said != Relation.SAME : said.and(all) == said;
        if (!told) {
            found.add(changed("", Words.model(before), Words.model(after), all, was, is));
        }
    }

    /** Which field of now is which of before: of the same name, of the same local name, of a like name. */
    private static Map<QName, QName> paired(Map<QName, Field> before, Map<QName, Field> after) {
        Map<QName, QName> pairs = new LinkedHashMap<>();
        Set<QName> free = new LinkedHashSet<>(after.keySet());
        for (QName name : before.keySet()) {
            if (free.remove(name)) {
                pairs.put(name, name);
            }
        }
        for (QName name : before.keySet()) {
            pair(name, free, pairs, f -> f.getLocalPart().equals(name.getLocalPart()) ? 1 : 0);
        }
        for (QName name : before.keySet()) {
            boolean value = isValue(before.get(name).element().type());
            pair(
                    name,
                    free,
                    pairs,
                    f -> isValue(after.get(f).element().type()) == value
                            ? Likeness.of(name.getLocalPart(), f.getLocalPart())
                            : 0);
        }
        return pairs;
    }

    private static void pair(
            QName name, Collection<QName> free, Map<QName, QName> pairs, Function<QName, Number> likeness) {
        if (pairs.containsKey(name)) {
            return;
        }
        QName best = null;
        double most = LIKE;
        for (QName candidate : free) {
            double like = likeness.apply(candidate).doubleValue();
            if (like > most) {
                most = like;
                best = candidate;
            }
        }
        if (best != null) {
            free.remove(best);
            pairs.put(name, best);
        }
    }

    private static void attributes(TypeDef was, TypeDef is, List<Detail> found) {
        Map<QName, AttributeDecl> before = byName(was);
        Map<QName, AttributeDecl> after = byName(is);
        before.forEach((name, old) -> {
            AttributeDecl fresh = after.get(name);
            String path = "@" + name.getLocalPart();
            if (fresh == null) {
                found.add(new Detail(
                        path,
                        Kind.GONE,
                        Words.attribute(old),
                        ContractChange.NOT_THERE,
                        old.required() ? Relation.OTHER : Relation.NARROWER,
                        old.place(),
                        is.place()));
                return;
            }
            List<Aspect> aspects = new ArrayList<>();
            occurs(often(old), often(fresh), aspects);
            fixed(old.fixed(), fresh.fixed(), old.byDefault(), fresh.byDefault(), aspects);
            Optional<SimpleType> value = old.type().simple();
            Optional<SimpleType> valueNow = fresh.type().simple();
            if (value.isPresent() && valueNow.isPresent()) {
                aspects.addAll(ValueChanges.of(value.get(), valueNow.get()));
            }
            self(aspects, old.place(), fresh.place()).ifPresent(d -> found.add(d.under(path)));
        });
        after.forEach((name, fresh) -> {
            if (!before.containsKey(name)) {
                found.add(new Detail(
                        "@" + name.getLocalPart(),
                        Kind.ADDED,
                        ContractChange.NOT_THERE,
                        Words.attribute(fresh),
                        fresh.required() ? Relation.OTHER : Relation.WIDER,
                        was.place(),
                        fresh.place()));
            }
        });
    }

    private static Map<QName, AttributeDecl> byName(TypeDef type) {
        Map<QName, AttributeDecl> found = new LinkedHashMap<>();
        type.attributes().stream().filter(a -> !a.ofEncoding()).forEach(a -> found.put(a.name(), a));
        return found;
    }

    private static Occurs often(AttributeDecl attribute) {
        return attribute.required() ? Occurs.ONCE : new Occurs(0, 1);
    }

    /** The types that may stand for it by xsi:type: which there are, and in what those became others. */
    private void derived(TypeDef was, TypeDef is, List<Detail> found) {
        Map<String, TypeDef> before = named(was.derived());
        Map<String, TypeDef> after = named(is.derived());
        standsFor("may be of type ", before.keySet(), after.keySet(), was.place(), is.place(), found);
        before.forEach((name, old) -> {
            TypeDef fresh = after.get(name);
            if (fresh != null && !Objects.equals(old, fresh)) {
                for (Detail d : of(old, fresh)) {
                    // what it has of its base is told of the base
                    boolean ofBase = found.stream()
                            .anyMatch(f -> f.path().equals(d.path())
                                    && f.before().equals(d.before())
                                    && f.after().equals(d.after()));
                    if (!ofBase) {
                        found.add(d.under("(" + name + ")"));
                    }
                }
            }
        });
    }

    /** The elements that may stand for it. */
    private static List<Detail> others(ElementDecl was, ElementDecl is) {
        List<Detail> found = new ArrayList<>();
        standsFor("may be ", names(was.substitutes()), names(is.substitutes()), was.place(), is.place(), found);
        return found;
    }

    private static Set<String> names(List<ElementDecl> elements) {
        Set<String> names = new TreeSet<>();
        elements.forEach(e -> names.add(e.name().getLocalPart()));
        return names;
    }

    private static Map<String, TypeDef> named(List<TypeDef> types) {
        Map<String, TypeDef> found = new LinkedHashMap<>();
        types.forEach(t -> t.name().ifPresent(n -> found.putIfAbsent(n.getLocalPart(), t)));
        return found;
    }

    private static void standsFor(
            String words,
            Set<String> before,
            Set<String> after,
            Optional<Place> was,
            Optional<Place> is,
            List<Detail> found) {
        if (before.equals(after)) {
            return;
        }
        Set<String> gone = new TreeSet<>(before);
        gone.removeAll(after);
        Set<String> fresh = new TreeSet<>(after);
        fresh.removeAll(before);
        found.add(new Detail(
                "",
                Kind.CHANGED,
                gone.isEmpty() ? ContractChange.NOT_THERE : words + String.join(", ", gone),
                fresh.isEmpty() ? ContractChange.NOT_THERE : words + String.join(", ", fresh),
                Relation.of(gone.isEmpty(), fresh.isEmpty()),
                was,
                is));
    }

    private static List<Detail> cut(List<Detail> details) {
        return details.size() <= MOST ? List.copyOf(details) : List.copyOf(details.subList(0, MOST));
    }
}
