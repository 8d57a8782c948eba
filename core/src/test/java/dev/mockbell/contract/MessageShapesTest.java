package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;

/** How bindings put messages on the wire: styles, encodings, headers, parts, attachments. */
class MessageShapesTest {
    private static final String SCHEMA = Contracts.schema(
            "<xs:element name='Ask' type='xs:int'/><xs:element name='Also' type='xs:string'/><xs:element name='Key' type='xs:string'/><xs:element name='Bad' type='xs:string'/>"
                    + "<xs:complexType name='Hut'><xs:sequence><xs:element name='name' type='xs:string'/><xs:element name='beds' type='xs:int'/></xs:sequence></xs:complexType>");

    private static Contract contract(String messages, String style, String operation, String more) {
        return Contracts.of("a.wsdl", """
                <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:t="urn:t"
                  xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:mime="http://schemas.xmlsoap.org/wsdl/mime/"
                  xmlns:enc="http://schemas.xmlsoap.org/soap/encoding/" xmlns:xs="http://www.w3.org/2001/XMLSchema" xmlns:wsdl="http://schemas.xmlsoap.org/wsdl/">
                  <types>%s</types>%s
                  <portType name="P"><operation name="Do"><input message="tns:In"/><output message="tns:Out"/>%s</operation></portType>
                  <binding name="B" type="tns:P"><soap:binding style="%s" transport="http://schemas.xmlsoap.org/soap/http"/>
                    <operation name="Do"><soap:operation soapAction=""/>%s</operation></binding>
                  <service name="S"><port name="Port" binding="tns:B"><soap:address location="http://127.0.0.1:1/t"/></port></service>
                </definitions>""".formatted(
                        SCHEMA + more,
                        messages,
                        operation.contains("<fault") ? "<fault name='F' message='tns:Bad'/>" : "",
                        style,
                        operation));
    }

    private static String body(String attributes) {
        return "<input><soap:body " + attributes + "/></input><output><soap:body " + attributes + "/></output>";
    }

    private static String request(Contract contract) {
        Port port = contract.ports().get(0);
        Operation o = port.binding().operations().get(0);
        SampleEnvelope sample =
                SampleEnvelope.of(contract, port.binding(), o, Detail.FULL).get(0);
        SoapMessage message = SoapMessage.parse(sample.text().getBytes(StandardCharsets.UTF_8), "sample");
        assertThat(new MessageValidator(contract.schemas())
                        .validate(MessageOutline.of(contract, o.input().orElseThrow()), message))
                .as(sample.text())
                .isEmpty();
        return sample.text().replaceAll(">\\s+<", "><");
    }

    private static final String TYPED =
            "<message name='In'><part name='hut' type='t:Hut'/><part name='nights' type='xs:int'/></message><message name='Out'/>";

    @Test
    void rpcLiteralHasAWrapperAndUnqualifiedParts() {
        String text = request(contract(TYPED, "rpc", body("use='literal' namespace='urn:calls'"), ""));
        assertThat(text)
                .containsPattern("<(\\w+):Do xmlns:\\1=\"urn:calls\"")
                .contains("<hut><t:name>")
                .contains("<nights>2</nights>");
    }

    @Test
    void aPartsAttributeChoosesAndAnUndeclaredOneIsLeftOut() {
        String text = request(contract(TYPED, "rpc", body("use='literal' namespace='urn:calls' parts='nights'"), ""));
        assertThat(text).contains("<nights>").doesNotContain("<hut>");
    }

    private static List<String> findings(Contract contract, String rule) {
        return contract.findings().stream()
                .filter(f -> f.rule().equals(rule))
                .map(Finding::text)
                .toList();
    }

    @Test
    void aPartThatIsNotThereIsNamedAndTheBodyHoldsTheOthers() {
        Contract one = contract(TYPED, "rpc", body("use='literal' namespace='urn:calls' parts='beds'"), "");
        assertThat(findings(one, "unresolved-part"))
                .contains("The message In has no part beds; it has hut, nights")
                .contains("The message Out has no part beds; it has none at all");
        assertThat(request(one)).contains("<hut>").contains("<nights>");
        Contract some = contract(TYPED, "rpc", body("use='literal' namespace='urn:calls' parts='beds nights'"), "");
        assertThat(findings(some, "unresolved-part")).hasSize(3);
        assertThat(request(some)).contains("<nights>").doesNotContain("<hut>");
        Contract none = contract(TYPED, "rpc", body("use='literal' namespace='urn:calls' parts=''"), "");
        assertThat(findings(none, "unresolved-part")).isEmpty();
        assertThat(request(none)).doesNotContain("<nights>").doesNotContain("<hut>");
    }

    @Test
    void aHeaderOfAPartOrMessageThatIsNotThereIsNamed() {
        Contract contract = contract(
                TYPED,
                "rpc",
                "<input><soap:body use='literal' namespace='urn:calls'/><soap:header message='tns:In' part='key' use='literal'/>"
                        + "<soap:header message='tns:In' use='literal'/><soap:header message='gone:In' part='hut' use='literal'/>"
                        + "<soap:header part='hut' use='literal'/></input><output><soap:body use='literal' namespace='urn:calls'/></output>",
                "");
        assertThat(findings(contract, "unresolved-part"))
                .containsExactly(
                        "The message In has no part key; it has hut, nights",
                        "This header names no part: part is missing");
        assertThat(findings(contract, "unresolved-message"))
                .containsExactly("This header names no message: message is missing");
        assertThat(findings(contract, "loose-reference"))
                .singleElement()
                .asString()
                .contains("“gone:In” has no declared prefix");
    }

    @Test
    void everyMessageIsResolvedAlsoOneThatNobodyUsesAndAPrefixThatIsNotDeclaredIsNamed() {
        Contract contract = contract(
                TYPED
                        + "<message name='Idle'><part name='p' element='t:Gone'/><part name='q' element='zz:Ask'/></message>",
                "rpc",
                body("use='literal' namespace='urn:calls'"),
                "");
        assertThat(findings(contract, "unresolved-element"))
                .containsExactly(
                        "Part p refers to the element {urn:t}Gone, which no schema has",
                        "Part q refers to the element zz:Ask, whose prefix zz is not declared");
    }

    @Test
    void severalPartsOfDocumentStyleStandSideBySide() {
        String text = request(contract(
                "<message name='In'><part name='a' element='t:Ask'/><part name='b' element='t:Also'/></message><message name='Out'/>",
                "document",
                body("use='literal'"),
                ""));
        assertThat(text).contains("<t:Ask>2</t:Ask><t:Also>also</t:Also></soap:Body>");
    }

    @Test
    void aBareTypeIsTheTypeOfTheBody() {
        String text = request(contract(
                "<message name='In'><part name='hut' type='t:Hut'/></message><message name='Out'/>",
                "document",
                body("use='literal'"),
                ""));
        assertThat(text).containsPattern("<soap:Body[^>]*><t:name>[^<]*</t:name><t:beds>2</t:beds></soap:Body>");
    }

    @Test
    void headersStandInTheHeaderAndNotInTheBody() {
        Contract contract = contract(
                "<message name='In'><part name='a' element='t:Ask'/><part name='k' element='t:Key'/></message><message name='Out'/><message name='Bad'><part name='b' element='t:Bad'/></message>",
                "document",
                "<input><soap:body use='literal'/><soap:header message='tns:In' part='k' use='literal'>"
                        + "<soap:headerfault message='tns:Bad' part='b' use='literal'/></soap:header></input><output><soap:body use='literal'/></output>",
                "");
        MessageDef in =
                contract.ports().get(0).binding().operations().get(0).input().orElseThrow();
        assertThat(in.body()).extracting(MessagePart::name).containsExactly("a");
        assertThat(in.headers()).singleElement().satisfies(h -> {
            assertThat(h.part().name()).isEqualTo("k");
            assertThat(h.faults()).extracting(MessagePart::name).containsExactly("b");
            assertThat(h.place().line()).isPositive();
        });
        assertThat(request(contract)).contains("<soap:Header><t:Key").contains("<soap:Body><t:Ask");
    }

    @Test
    void aHeaderOfAnotherMessageWithTheSamePartNameLeavesTheBodyAlone() {
        Contract contract = contract(
                "<message name='In'><part name='a' element='t:Ask'/></message><message name='H'><part name='a' element='t:Ask'/></message><message name='Out'/>",
                "document",
                "<input><soap:body use='literal'/><soap:header message='tns:H' part='a' use='literal'/></input><output><soap:body use='literal'/></output>",
                "");
        assertThat(request(contract)).contains("<soap:Body><t:Ask");
    }

    @Test
    void attachmentsOfAMultipartAreNotInTheBody() {
        Contract contract = contract(
                "<message name='In'><part name='a' element='t:Ask'/><part name='photo' type='xs:base64Binary'/></message><message name='Out'/>",
                "document",
                "<input><mime:multipartRelated><mime:part><soap:body use='literal' parts='a'/></mime:part>"
                        + "<mime:part><mime:content part='photo' type='image/jpeg'/><mime:content part='photo' type='image/*'/></mime:part></mime:multipartRelated></input><output><soap:body use='literal'/></output>",
                "");
        MessageDef in =
                contract.ports().get(0).binding().operations().get(0).input().orElseThrow();
        assertThat(in.body()).extracting(MessagePart::name).containsExactly("a");
        assertThat(in.attachments()).containsExactly(new Attachment("photo", List.of("image/jpeg", "image/*")));
        assertThat(request(contract)).contains("<soap:Body><t:Ask");
    }

    @Test
    void faultsHaveSamplesOfTheirOwn() {
        Contract contract = contract(
                "<message name='In'><part name='a' element='t:Ask'/></message><message name='Out'/><message name='Bad'><part name='b' element='t:Bad'/></message>",
                "document",
                body("use='literal'") + "<fault name='F'><soap:fault name='F' use='literal'/></fault>",
                "");
        Port port = contract.ports().get(0);
        List<SampleEnvelope> all = SampleEnvelope.of(
                contract, port.binding(), port.binding().operations().get(0), Detail.REQUIRED);
        assertThat(all)
                .extracting(SampleEnvelope::direction)
                .containsExactly(
                        SampleEnvelope.Direction.REQUEST,
                        SampleEnvelope.Direction.RESPONSE,
                        SampleEnvelope.Direction.FAULT);
        assertThat(all.get(2).text()).contains("<faultcode>").contains("<detail><t:Bad");
    }

    @Test
    void encodedMessagesStateTypesAndArrays() {
        Contract contract = contract(
                "<message name='In'><part name='huts' type='t:Huts'/><part name='n' type='xs:int'/></message><message name='Out'/>",
                "rpc",
                body("use='encoded' namespace='urn:calls' encodingStyle='http://schemas.xmlsoap.org/soap/encoding/'"),
                "<xs:schema targetNamespace='urn:t2'/>"
                        + "<xs:schema targetNamespace='urn:t' xmlns:t='urn:t'><xs:import namespace='http://schemas.xmlsoap.org/soap/encoding/'/>"
                        + "<xs:complexType name='Huts'><xs:complexContent><xs:restriction base='enc:Array'><xs:attribute ref='enc:arrayType' wsdl:arrayType='t:Hut[]'/></xs:restriction></xs:complexContent></xs:complexType></xs:schema>");
        String text = request(contract);
        assertThat(text)
                .contains("soap:encodingStyle=\"http://schemas.xmlsoap.org/soap/encoding/\"")
                .containsPattern("<huts [^>]*enc:arrayType=\"t:Hut\\[1\\]\"")
                .containsPattern("<huts [^>]*xsi:type=\"t:Huts\"")
                .contains("<item xsi:type=\"t:Hut\"><t:name xsi:type=\"xs:string\">")
                .contains("<n xsi:type=\"xs:int\">2</n>");
        assertThat(contract.findings()).extracting(Finding::rule).contains("R2706", "R2110", "R2111");
    }

    private static final String COMMON = "<xs:schema targetNamespace='urn:t2'/>"
            + "<xs:schema targetNamespace='urn:t' xmlns:t='urn:t'><xs:import namespace='http://schemas.xmlsoap.org/soap/encoding/'/>"
            + "<xs:complexType name='Bunk'><xs:sequence><xs:element name='no' type='xs:int'/></xs:sequence>"
            + "<xs:attributeGroup ref='enc:commonAttributes'/></xs:complexType>"
            + "<xs:complexType name='Name'><xs:simpleContent><xs:extension base='enc:string'/></xs:simpleContent></xs:complexType>"
            + "<xs:complexType name='Note'><xs:attribute name='href' type='xs:anyURI'/><xs:attribute name='id' type='xs:ID'/>"
            + "<xs:attribute name='tone' type='xs:string'/></xs:complexType></xs:schema>";

    private static final String TAKES_COMMON =
            "<message name='In'><part name='bunk' type='t:Bunk'/><part name='name' type='t:Name'/><part name='note' type='t:Note'/></message><message name='Out'/>";

    private static String full(Contract contract) {
        return SampleBuilder.text(
                MessageOutline.ofRequest(
                        contract, contract.ports().get(0).binding().operations().get(0)),
                Detail.FULL);
    }

    @Test
    void aFullEncodedSampleInventsNoReferenceToAValueElsewhere() {
        String text = full(contract(
                TAKES_COMMON,
                "rpc",
                body("use='encoded' namespace='urn:calls' encodingStyle='http://schemas.xmlsoap.org/soap/encoding/'"),
                COMMON));
        assertThat(text)
                .doesNotContain("href=")
                .doesNotContain(" id=")
                .contains("tone=\"tone\"")
                .contains("<no xsi:type=\"xs:int\">");
    }

    @Test
    void inALiteralMessageOnlyWhatTheContractItselfDeclaresIsPutIn() {
        String text = full(contract(TAKES_COMMON, "rpc", body("use='literal' namespace='urn:calls'"), COMMON));
        assertThat(text).containsOnlyOnce("href=").containsOnlyOnce(" id=").containsPattern("<note href=");
    }

    @Test
    void overloadedOperationsAreToldApartByTheirMessages() {
        String text = Contracts.wsdl(Contracts.schema(
                        "<xs:element name='Root' type='xs:int'/><xs:element name='Other' type='xs:int'/>"))
                .replace("</message>", "</message><message name='N'><part name='p' element='t:Other'/></message>")
                .replace(
                        "</operation></portType>",
                        "</operation><operation name=\"Do\"><input name=\"two\" message=\"tns:N\"/></operation></portType>")
                .replace(
                        "</operation>\n  </binding>",
                        "</operation><operation name=\"Do\"><input name=\"two\"><soap:body use=\"literal\"/></input></operation></binding>");
        Contract contract = Contracts.of("a.wsdl", text);
        List<Operation> operations = contract.ports().get(0).binding().operations();
        assertThat(operations).extracting(Operation::key).containsExactly("Do", "Do#2");
        assertThat(operations.get(1).input().orElseThrow().name()).isEqualTo("N");
        assertThat(operations.get(1).pattern()).isEqualTo(Operation.Pattern.ONE_WAY);
    }

    @Test
    void outputFirstOperationsAreListedAndNotCallable() {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace(
                        "<input message=\"tns:M\"/><output message=\"tns:M\"/>",
                        "<output message=\"tns:M\"/><input message=\"tns:M\"/>");
        Operation o = Contracts.of("a.wsdl", text)
                .ports()
                .get(0)
                .binding()
                .operations()
                .get(0);
        assertThat(o.pattern()).isEqualTo(Operation.Pattern.SOLICIT_RESPONSE);
        assertThat(o.callable()).isFalse();
    }

    @Test
    void aBindingWhosePortTypeIsMissingIsListed() {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace("type=\"tns:P\"", "type=\"tns:Gone\"");
        Contract contract = Contracts.of("a.wsdl", text);
        assertThat(contract.findings()).extracting(Finding::rule).contains("unresolved-port-type");
        assertThat(contract.ports().get(0).binding().operations())
                .extracting(Operation::name)
                .containsExactly("Do");
    }

    @Test
    void aNameWithoutPrefixMayMeanTheTargetNamespace() {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace("message=\"tns:M\"", "message=\"M\"")
                .replace("binding=\"tns:B\"", "binding=\"undeclared:B\"");
        Contract contract = Contracts.of(
                "a.wsdl",
                text.replace(
                                "xmlns=\"http://schemas.xmlsoap.org/wsdl/\"",
                                "xmlns:w=\"http://schemas.xmlsoap.org/wsdl/\"")
                        .replaceAll(
                                "<(/?)(types|definitions|message|part|portType|operation|input|output|binding|service|port)\\b",
                                "<$1w:$2"));
        assertThat(contract.ports()).hasSize(1);
        assertThat(contract.ports()
                        .get(0)
                        .binding()
                        .operations()
                        .get(0)
                        .input()
                        .orElseThrow()
                        .body())
                .hasSize(1);
        assertThat(contract.findings()).extracting(Finding::rule).contains("loose-reference");
    }
}
