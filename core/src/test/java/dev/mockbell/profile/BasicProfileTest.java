package dev.mockbell.profile;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.Finding;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Each rule finds a breach that was put into a contract that has none. */
class BasicProfileTest {
    private static final String CLEAN = """
            <?xml version="1.0" encoding="UTF-8"?>
            <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:t="urn:t"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:enc="http://schemas.xmlsoap.org/soap/encoding/"
              xmlns:wsdl="http://schemas.xmlsoap.org/wsdl/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:t"><xs:import namespace="http://schemas.xmlsoap.org/soap/encoding/"/>
                <xs:element name="Ask" type="xs:int"/><xs:element name="Tell" type="xs:int"/><xs:element name="Bad" type="xs:int"/>
              </xs:schema></types>
              <message name="In"><part name="p" element="t:Ask"/></message>
              <message name="Out"><part name="p" element="t:Tell"/></message>
              <message name="Bad"><part name="p" element="t:Bad"/></message>
              <message name="RpcIn"><part name="n" type="xs:int"/><part name="m" type="xs:int"/></message>
              <portType name="P"><operation name="Do"><input message="tns:In"/><output message="tns:Out"/><fault name="F" message="tns:Bad"/></operation></portType>
              <portType name="R"><operation name="Call"><input message="tns:RpcIn"/><output message="tns:RpcIn"/></operation></portType>
              <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Do"><soap:operation soapAction="do"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output>
                  <fault name="F"><soap:fault name="F" use="literal"/></fault></operation></binding>
              <binding name="C" type="tns:R"><soap:binding style="rpc" transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Call"><soap:operation soapAction="call"/><input><soap:body use="literal" namespace="urn:c"/></input><output><soap:body use="literal" namespace="urn:c"/></output></operation></binding>
              <service name="S"><port name="One" binding="tns:B"><soap:address location="http://127.0.0.1:1/1"/></port>
                <port name="Two" binding="tns:C"><soap:address location="http://127.0.0.1:1/2"/></port></service>
            </definitions>
            """;
    private static final String DO_BODY = "<input><soap:body use=\"literal\"/></input>";
    private static final String CALL_BODY = "<input><soap:body use=\"literal\" namespace=\"urn:c\"/></input>";
    private static final String SCHEMA =
            "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:x'/>";

    private static Arguments breach(String rule, String old, String fresh, String... documents) {
        return Arguments.of(rule, old, fresh, List.of(documents));
    }

    static Stream<Arguments> breaches() {
        return Stream.of(
                breach("R2001", "<types>", "<import namespace='urn:x' location='x.xsd'/><types>", "x.xsd", SCHEMA),
                breach(
                        "R2003",
                        "<types>",
                        "<types><xs:import namespace='urn:x' schemaLocation='x.xsd'/>",
                        "x.xsd",
                        SCHEMA),
                breach(
                        "R2004",
                        "<xs:import namespace=\"http://schemas.xmlsoap.org/soap/encoding/\"/>",
                        "<xs:import namespace='urn:b' schemaLocation='b.wsdl'/>",
                        "b.wsdl",
                        "<definitions xmlns='http://schemas.xmlsoap.org/wsdl/' targetNamespace='urn:b'/>"),
                breach(
                        "R2005",
                        "<types>",
                        "<import namespace='urn:other' location='b.wsdl'/><types>",
                        "b.wsdl",
                        "<definitions xmlns='http://schemas.xmlsoap.org/wsdl/' targetNamespace='urn:b'/>"),
                breach("R2007", "<types>", "<import namespace='urn:b' location=''/><types>"),
                breach(
                        "R2010",
                        "<types>",
                        "<types><xs:schema><xs:import namespace='urn:x' schemaLocation='x.xsd'/></xs:schema>",
                        "x.xsd",
                        "<?xml version='1.0' encoding='ISO-8859-1'?>" + SCHEMA),
                breach(
                        "R2022",
                        "</types>",
                        "</types><import namespace='urn:b' location='b.wsdl'/>",
                        "b.wsdl",
                        "<definitions xmlns='http://schemas.xmlsoap.org/wsdl/' targetNamespace='urn:b'/>"),
                breach("R2023", "<types>", "<message name='Early'/><types>"),
                breach(
                        "R2026",
                        "<soap:binding style=\"rpc\"",
                        "<x:y xmlns:x='urn:x' wsdl:required='true'/><soap:binding style=\"rpc\""),
                breach("R2028", "<service name=\"S\">", "<service>"),
                breach(
                        "R2029",
                        "<soap:operation soapAction=\"do\"/>",
                        "<soap:operation soapAction=\"do\" style=\"weird\"/>"),
                breach("R2101", "binding=\"tns:B\"", "binding=\"t:B\""),
                breach(
                        "R2102",
                        "<xs:element name=\"Ask\"",
                        "<xs:element name='To' xmlns:a='http://www.w3.org/2005/08/addressing' type='a:EndpointReferenceType'/><xs:element name=\"Ask\""),
                breach(
                        "R2105",
                        "<xs:schema targetNamespace=\"urn:t\">",
                        "<xs:schema><xs:element name='Free'/></xs:schema><xs:schema targetNamespace=\"urn:t\">"),
                breach(
                        "R2110",
                        "<xs:element name=\"Ask\"",
                        "<xs:complexType name='L'><xs:complexContent><xs:extension base='enc:Array'/></xs:complexContent></xs:complexType><xs:element name=\"Ask\""),
                breach(
                        "R2111",
                        "<xs:element name=\"Ask\"",
                        "<xs:complexType name='L'><xs:attribute ref='enc:arrayType' wsdl:arrayType='xs:int[]'/></xs:complexType><xs:element name=\"Ask\""),
                breach(
                        "R2112",
                        "<xs:element name=\"Ask\"",
                        "<xs:element name='ArrayOfHut' type='xs:int'/><xs:element name=\"Ask\""),
                breach("R2201", DO_BODY, "<input><soap:body use='literal' parts='p q'/></input>"),
                breach("R2203", "<part name=\"n\" type=\"xs:int\"/>", "<part name='n' element='t:Ask'/>"),
                breach(
                        "R2204",
                        "<message name=\"In\"><part name=\"p\" element=\"t:Ask\"/>",
                        "<message name='In'><part name='p' type='xs:int'/>"),
                breach(
                        "R2205",
                        "<message name=\"Bad\"><part name=\"p\" element=\"t:Bad\"/>",
                        "<message name='Bad'><part name='p' type='xs:int'/>"),
                breach("R2206", "element=\"t:Ask\"", "element=\"t:Nobody\""),
                breach("R2209", CALL_BODY, "<input><soap:body use='literal' namespace='urn:c' parts='n'/></input>"),
                breach(
                        "R2210",
                        "<part name=\"p\" element=\"t:Ask\"/>",
                        "<part name='p' element='t:Ask'/><part name='q' element='t:Tell'/>"),
                breach(
                        "R2303",
                        "<input message=\"tns:In\"/><output message=\"tns:Out\"/>",
                        "<output message='tns:Out'/><input message='tns:In'/>"),
                breach(
                        "R2304",
                        "<portType name=\"R\">",
                        "<portType name='R'><operation name='Call'><input message='tns:RpcIn'/></operation>"),
                breach(
                        "R2305",
                        "<operation name=\"Call\"><input message",
                        "<operation name='Call' parameterOrder='x'><input message"),
                breach("R2306", "<part name=\"n\" type=\"xs:int\"/>", "<part name='n' type='xs:int' element='t:Ask'/>"),
                breach("R2401", "<soap:binding style=\"rpc\" transport=\"http://schemas.xmlsoap.org/soap/http\"/>", ""),
                breach(
                        "R2701",
                        "<soap:binding transport=\"http://schemas.xmlsoap.org/soap/http\"/>",
                        "<soap:binding/>"),
                breach(
                        "R2702",
                        "<soap:binding transport=\"http://schemas.xmlsoap.org/soap/http\"/>",
                        "<soap:binding transport='urn:pigeon'/>"),
                breach(
                        "R2705",
                        "<binding name=\"C\" type=\"tns:R\"><soap:binding style=\"rpc\"",
                        "<binding name='C' type='tns:R'><operation name='Two'><soap:operation soapAction='' style='document'/></operation><soap:binding style='rpc'"),
                breach("R2706", CALL_BODY, "<input><soap:body use='encoded' namespace='urn:c'/></input>"),
                breach(
                        "R2710",
                        "<operation name=\"Do\"><soap:operation",
                        "<operation name='Again'><input><soap:body use='literal'/></input></operation><operation name='Do'><input><soap:body use='literal' parts=''/></input></operation><operation name='Do'><soap:operation"),
                breach("R2711", "http://127.0.0.1:1/2", "http://127.0.0.1:1/1"),
                breach("R2716", DO_BODY, "<input><soap:body use='literal' namespace='urn:x'/></input>"),
                breach("R2717", CALL_BODY, "<input><soap:body use='literal'/></input>"),
                breach(
                        "R2718",
                        "<portType name=\"P\">",
                        "<portType name='P'><operation name='More'><input message='tns:In'/></operation>"),
                breach(
                        "R2720",
                        DO_BODY,
                        "<input><soap:body use='literal'/><soap:header use='literal' message='tns:Out' part='p q'/></input>"),
                breach("R2721", "<soap:fault name=\"F\" use=\"literal\"/>", "<soap:fault use='literal'/>"),
                breach("R2723", "<soap:fault name=\"F\" use=\"literal\"/>", "<soap:fault name='F' use='encoded'/>"),
                breach(
                        "R2726",
                        CALL_BODY,
                        "<input><soap:body use='literal' namespace='urn:c'/><soap:header use='literal' message='tns:In' part='p' namespace='urn:h'/></input>"),
                breach("R2740", "<fault name=\"F\"><soap:fault name=\"F\" use=\"literal\"/></fault>", ""),
                breach("R2754", "<soap:fault name=\"F\" use=\"literal\"/>", "<soap:fault name='G' use='literal'/>"),
                breach(
                        "R2801",
                        "<types>",
                        "<types><d:schema xmlns:d='http://www.w3.org/1999/XMLSchema' targetNamespace='urn:d'/>"),
                breach("R4003", "encoding=\"UTF-8\"", "encoding=\"ISO-8859-1\""),
                breach("R4004", "version=\"1.0\"", "version=\"1.1\""));
    }

    private static Contract read(String wsdl, List<String> documents) {
        List<String> all = new java.util.ArrayList<>(List.of("a.wsdl", wsdl));
        all.addAll(documents);
        return Contracts.of(all.toArray(new String[0]));
    }

    @Test
    void aCleanContractBreaksNoRule() {
        assertThat(read(CLEAN, List.of()).findings()).extracting(Finding::rule).containsExactly("known-schema");
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("breaches")
    void aBreachIsFoundAtItsPlace(String rule, String old, String fresh, List<String> documents) {
        assertThat(CLEAN).contains(old);
        List<Finding> found = read(CLEAN.replace(old, fresh), documents).findings().stream()
                .filter(f -> f.rule().equals(rule))
                .toList();
        assertThat(found).isNotEmpty().allSatisfy(f -> {
            assertThat(f.place().line()).isPositive();
            assertThat(f.place().document()).startsWith("mem:/");
            assertThat(f.text()).isNotBlank().doesNotEndWith(".");
            assertThat(f.advice()).endsWith(".");
            assertThat(f.severity()).isIn(Finding.Severity.WARNING, Finding.Severity.NOTE, Finding.Severity.ERROR);
        });
    }

    @Test
    void everyRuleOfTheListHasABreachHereAndNumbersAreItsOwn() {
        Set<String> tried = breaches().map(a -> (String) a.get()[0]).collect(Collectors.toCollection(TreeSet::new));
        List<String> listed = BasicProfile.RULES.stream().map(Rule::number).toList();
        assertThat(listed).doesNotHaveDuplicates().isSorted();
        assertThat(tried).containsAll(listed);
        assertThat(listed).hasSizeGreaterThanOrEqualTo(30);
    }

    @Test
    void oneRuleTellsAtMostFiveHundredPlaces() {
        StringBuilder many = new StringBuilder();
        for (int i = 0; i < 700; i++) {
            many.append("<xs:element name='ArrayOf").append(i).append("' type='xs:int'/>");
        }
        List<Finding> found = read(
                        CLEAN.replace("<xs:element name=\"Ask\"", many + "<xs:element name=\"Ask\""), List.of())
                .findings()
                .stream()
                .filter(f -> f.rule().equals("R2112"))
                .toList();
        assertThat(found).hasSize(501);
        assertThat(found.get(500).text()).isEqualTo("The same in 200 more places");
    }
}
