package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Which addresses of parts become includes. */
class IncludesTest {
    private final Contract contract = Contracts.of(
            "a.wsdl",
            Contracts.wsdl(
                    Contracts.schema(
                            "<xs:simpleType name='Photo'><xs:restriction base='xs:base64Binary'/></xs:simpleType><xs:element name='Root'><xs:complexType><xs:sequence>"
                                    + "<xs:element name='photo' type='t:Photo' maxOccurs='9'/><xs:element name='map' type='xs:anyURI'/><xs:element name='print' type='xs:hexBinary'/></xs:sequence></xs:complexType></xs:element>")));
    private final MessageOutline outline = MessageOutline.ofRequest(
            contract, contract.operation("Do", null).orElseThrow().operation());

    private String in(String body) {
        return Includes.in(outline, body, id -> id.equals("a") ? Optional.of("cid:a%20b") : Optional.empty());
    }

    @Test
    void onlyABinaryValueOfAPartThatIsThereLeavesItsPlace() {
        assertThat(in(
                        "<t:Root xmlns:t='urn:t'><t:photo> cid:a </t:photo><t:photo>cid:b</t:photo><t:photo>YQ==</t:photo>"
                                + "<t:map>cid:a</t:map><t:print>cid:a</t:print></t:Root>"))
                .isEqualTo(
                        "<t:Root xmlns:t=\"urn:t\"><t:photo><xop:Include xmlns:xop=\"http://www.w3.org/2004/08/xop/include\" href=\"cid:a%20b\"/></t:photo>"
                                + "<t:photo>cid:b</t:photo><t:photo>YQ==</t:photo><t:map>cid:a</t:map><t:print>cid:a</t:print></t:Root>");
    }

    @Test
    void aBodyWithoutOneStaysToTheLetter() {
        String body = "<t:Root  xmlns:t='urn:t'><t:map>cid:a</t:map></t:Root>";
        assertThat(in(body)).isSameAs(body);
        assertThat(in("")).isEmpty();
    }
}
