package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Element;

class EncodedItemsTest {
    private static Element call(String attributes) {
        return Xml.parse(
                        "<c:call xmlns:c='urn:c' xmlns:e='http://schemas.xmlsoap.org/soap/encoding/' xmlns:f='http://www.w3.org/2003/05/soap-encoding'>"
                                + "<huts " + attributes + "><item><id>a</id></item></huts><other/></c:call>",
                        "call",
                        XmlLimits.MESSAGE)
                .getDocumentElement();
    }

    @Test
    void anArrayOfSoap11GrowsByCopiesOfItsLastItem() {
        Element call = call("e:arrayType='c:Hut[1]'");
        assertThat(EncodedItems.reach(call, "/call/huts/item[3]/id")).isTrue();
        assertThat(XmlText.exact(call))
                .contains("e:arrayType=\"c:Hut[3]\"")
                .containsSubsequence("<id>a</id>", "<id>a</id>", "<id>a</id>");
        assertThat(EncodedItems.reach(call, "/call/huts/item[2]")).isFalse();
    }

    @Test
    void oneOfSoap12SaysItsSizeInAnotherWay() {
        Element call = call("f:itemType='c:Hut' f:arraySize='1'");
        assertThat(EncodedItems.reach(call, "/call/huts/item[2]")).isTrue();
        assertThat(XmlText.exact(call)).contains("f:arraySize=\"2\"");
    }

    @Test
    void whatIsNoArrayStaysAsItIs() {
        Element call = call("");
        assertThat(EncodedItems.reach(call, "/call/huts/item[2]")).isFalse();
        assertThat(EncodedItems.reach(call, "/gone/huts/item[2]")).isFalse();
        assertThat(EncodedItems.reach(call("e:arrayType='c:Hut[1]'"), "/call/huts/item[999999]"))
                .isFalse();
    }
}
