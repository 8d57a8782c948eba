package dev.mockbell.change;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;

/** What is said of content models is held against trying all short messages, and against what a schema validator says. */
class InclusionTest {
    private static final List<String> NAMES = List.of("a", "b", "c");

    private final Random random = new Random(18);

    @Test
    void whatIsSaidOfTwoModelsIsSoForEveryShortMessage() {
        List<List<QName>> messages = messages(4);
        int told = 0;
        for (int i = 0; i < 400; i++) {
            ContentModel was = model();
            ContentModel is = random.nextInt(4) == 0 ? was : model();
            Relation said = Inclusion.between(was, is);
            List<List<QName>> old = messages.stream().filter(m -> takes(was, m)).toList();
            List<List<QName>> now = messages.stream().filter(m -> takes(is, m)).toList();
            if (said.holdsOld() && said != Relation.UNKNOWN) {
                assertThat(now).as("%s within %s", was, is).containsAll(old);
            }
            if (said.heldByOld() && said != Relation.UNKNOWN) {
                assertThat(old).as("%s within %s", is, was).containsAll(now);
            }
            told += said == Relation.UNKNOWN ? 0 : 1;
        }
        assertThat(told).as("models that are this small are always told").isEqualTo(400);
    }

    @Test
    void whatIsSaidToBreakIsBrokenBySomeShortMessage() {
        List<List<QName>> messages = messages(6);
        for (int i = 0; i < 150; i++) {
            ContentModel was = model();
            ContentModel is = model();
            if (!Inclusion.between(was, is).holdsOld()) {
                assertThat(messages.stream().anyMatch(m -> takes(was, m) && !takes(is, m)))
                        .as("a message of %s that is none of %s", was, is)
                        .isTrue();
            }
        }
    }

    @Test
    void requestsOfTheOldSchemaAreValidInTheNewOneWhereItIsSaidThatCallersNeedNotChange() {
        int held = 0;
        for (int i = 0; i < 120; i++) {
            String[][] fields = fields();
            String old = text(fields);
            String now = text(mutated(fields));
            Contract was = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(old)));
            Contract is = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(now)));
            boolean holds = ContractChanges.between(was, is, new StopSignal()).changes().stream()
                    .filter(c -> c.half() == Half.TAKES)
                    .allMatch(c -> c.callers() == Effect.HOLDS);
            if (holds) {
                held++;
                var operation = was.operation("Do", null).orElseThrow().operation();
                for (SampleBuilder.Detail detail : SampleBuilder.Detail.values()) {
                    String sample =
                            SampleBuilder.text(dev.mockbell.message.MessageOutline.ofRequest(was, operation), detail);
                    var outline = dev.mockbell.message.MessageOutline.ofRequest(
                            is, is.operation("Do", null).orElseThrow().operation());
                    assertThat(new MessageValidator(is.schemas())
                                    .validate(outline, Xml.parse(sample, "sample", XmlLimits.MESSAGE)))
                            .as("%s%nwas %s%nis %s", sample, old, now)
                            .isEmpty();
                }
            }
        }
        assertThat(held).as("pairs that hold").isGreaterThan(5);
    }

    /** What fields there are: type, least and most of each; null where there is none. */
    private String[][] fields() {
        String[][] made = new String[NAMES.size()][];
        for (int i = 0; i < made.length; i++) {
            if (random.nextInt(5) > 0) {
                made[i] = new String[] {
                    List.of("xs:int", "xs:long", "xs:string").get(random.nextInt(3)), pick("0", "1"), pick("1", "3")
                };
            }
        }
        return made;
    }

    private String[][] mutated(String[][] fields) {
        String[][] other = fields();
        String[][] made = new String[fields.length][];
        for (int i = 0; i < made.length; i++) {
            made[i] = fields[i] == null || random.nextInt(3) > 0 ? fields[i] : other[i];
        }
        return made;
    }

    private String pick(String one, String other) {
        return random.nextBoolean() ? one : other;
    }

    private static String text(String[][] fields) {
        StringBuilder made = new StringBuilder();
        for (int i = 0; i < fields.length; i++) {
            if (fields[i] != null) {
                made.append("<xs:element name='%s' type='%s' minOccurs='%s' maxOccurs='%s'/>"
                        .formatted(NAMES.get(i), fields[i][0], fields[i][1], fields[i][2]));
            }
        }
        return ContractChangesTest.sequence(made.toString());
    }

    private static boolean takes(ContentModel model, List<QName> message) {
        ContentModel at = model;
        for (QName name : message) {
            var next = at.after(name);
            if (next.isEmpty()) {
                return false;
            }
            at = next.get();
        }
        return at.endsHere();
    }

    private static List<List<QName>> messages(int longest) {
        List<List<QName>> all = new ArrayList<>(List.of(List.of()));
        int from = 0;
        for (int length = 0; length < longest; length++) {
            int to = all.size();
            for (int i = from; i < to; i++) {
                for (String name : NAMES) {
                    List<QName> longer = new ArrayList<>(all.get(i));
                    longer.add(new QName("urn:t", name));
                    all.add(longer);
                }
            }
            from = to;
        }
        return all;
    }

    /** A model of a real schema of a few particles. */
    private ContentModel model() {
        String schema = Contracts.schema(
                "<xs:element name='Root'><xs:complexType>" + group(0) + "</xs:complexType></xs:element>");
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(schema));
        return ContentModel.of(
                contract.schemas()
                        .element(new QName("urn:t", "Root"))
                        .orElseThrow()
                        .type()
                        .particle(),
                n -> n);
    }

    private String group(int depth) {
        String kind = random.nextBoolean() ? "sequence" : "choice";
        StringBuilder inside = new StringBuilder();
        int count = 1 + random.nextInt(2);
        for (int i = 0; i < count; i++) {
            inside.append(
                    depth < 1 && random.nextInt(3) == 0
                            ? group(depth + 1)
                            : "<xs:element name='" + NAMES.get(random.nextInt(3)) + "' type='xs:string'" + times()
                                    + "/>");
        }
        return "<xs:" + kind + (depth > 0 ? times() : "") + ">" + inside + "</xs:" + kind + ">";
    }

    private String times() {
        return switch (random.nextInt(4)) {
            case 0 -> " minOccurs='0'";
            case 1 -> " maxOccurs='2'";
            case 2 -> " minOccurs='0' maxOccurs='unbounded'";
            default -> "";
        };
    }
}
