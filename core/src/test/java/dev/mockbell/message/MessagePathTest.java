package dev.mockbell.message;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

class MessagePathTest {
    private static final String TRIP = "<t:Trip xmlns:t='urn:t' xmlns:x='urn:x' code='7'>"
            + "<t:leg x:kind='a'><t:to>Skarn</t:to></t:leg><t:leg><t:to>Kettle</t:to><t:to>Wolfgill</t:to></t:leg>"
            + "<note xmlns=''>one</note></t:Trip>";

    private final Element root = Xml.parse(TRIP, "trip", XmlLimits.MESSAGE).getDocumentElement();

    private Node at(String path) {
        return MessagePath.node(root, path).orElseThrow();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/Trip",
                "/Trip/leg[1]",
                "/Trip/leg[1]/to",
                "/Trip/leg[2]/to[2]",
                "/Trip/note",
                "/Trip/@code",
                "/Trip/leg[1]/@*:kind"
            })
    void aPathLeadsToWhatItWasMadeOf(String path) {
        assertThat(MessagePath.of(at(path))).isEqualTo(path);
    }

    @ParameterizedTest
    @CsvSource({"/Trip/leg/to, Skarn", "Trip/leg[2]/to, Kettle", "/t:Trip/t:leg[2]/t:to[2], Wolfgill", "/Trip/note, one"
    })
    void aStepWithoutAPositionIsTheFirstAndPrefixesArePassedOver(String path, String text) {
        assertThat(at(path).getTextContent()).isEqualTo(text);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/Other",
                "/Trip/leg[3]",
                "/Trip/leg[0]",
                "/Trip/leg[x]",
                "/Trip[2]",
                "/Trip/@none",
                "/@code",
                "",
                "/Trip/leg[1]/to/@a",
                "/Trip/leg[99999999999]"
            })
    void whatIsNotThereIsNone(String path) {
        assertThat(MessagePath.node(root, path)).isEmpty();
    }

    @Test
    void withPrefixesItIsAsTheMessageWritesIt() {
        assertThat(MessagePath.prefixed(at("/Trip/leg[2]/to[2]"))).isEqualTo("/t:Trip/t:leg[2]/t:to[2]");
        assertThat(MessagePath.prefixed(at("/Trip/leg[1]/@*:kind"))).isEqualTo("/t:Trip/t:leg[1]/@x:kind");
    }

    @Test
    void textIsNamedByItsElement() {
        assertThat(MessagePath.of(at("/Trip/note").getFirstChild())).isEqualTo("/Trip/note");
    }

    @Test
    void allTogetherAreAsEachAlone() {
        Map<Node, String> all = MessagePath.all(root);
        assertThat(all).hasSize(7 + 5);
        all.forEach((node, path) -> assertThat(path)
                .as(node instanceof Attr a ? a.getName() : node.getNodeName())
                .isEqualTo(MessagePath.of(node)));
        assertThat(List.copyOf(MessagePath.all((Element) at("/Trip/leg[2]")).values()))
                .contains("/Trip/leg[2]/to[1]");
    }
}
