package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Export.Form;
import dev.mockbell.project.ExportFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ExportTest {
    private static final String BINDINGS =
            "<definitions xmlns='http://schemas.xmlsoap.org/wsdl/' targetNamespace='urn:t:service' xmlns:tns='urn:t:service' "
                    + "xmlns:soap='http://schemas.xmlsoap.org/wsdl/soap/'><import namespace='urn:t:service' location='sub/types.wsdl'/>"
                    + "<binding name='C' type='tns:P'><soap:binding transport='http://schemas.xmlsoap.org/soap/http'/><operation name='Do'><input><soap:body use='literal'/></input>"
                    + "<output><soap:body use='literal'/></output></operation></binding>"
                    + "<service name='Z'><port name='Extra' binding='tns:C'><soap:address location='http://old.example:8/z'/></port></service></definitions>";

    private final Contract several = Contracts.of(
            "a.wsdl",
            BINDINGS,
            "sub/types.wsdl",
            Contracts.wsdl("<xs:schema><xs:import namespace='urn:t' schemaLocation='../x/t.xsd'/></xs:schema>"),
            "x/t.xsd",
            "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' xmlns:t='urn:t' targetNamespace='urn:t' elementFormDefault='qualified'><xs:include schemaLocation='names.xsd'/>"
                    + "<xs:element name='Root' type='t:Name'/></xs:schema>",
            "x/names.xsd",
            "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:complexType name='Name'><xs:sequence><xs:element name='n' type='Short'/></xs:sequence></xs:complexType>"
                    + "<xs:simpleType name='Short'><xs:restriction base='xs:string'><xs:maxLength value='4'/></xs:restriction></xs:simpleType></xs:schema>");

    private static Contract again(Map<String, byte[]> files) {
        String[] documents = files.entrySet().stream()
                .flatMap(f -> java.util.stream.Stream.of(f.getKey(), new String(f.getValue(), StandardCharsets.UTF_8)))
                .toArray(String[]::new);
        return Contracts.of(documents);
    }

    private static List<String> shape(Contract contract) {
        return contract.ports().stream()
                .map(p ->
                        p.name() + p.binding().operations().size() + p.binding().protocol())
                .sorted()
                .toList();
    }

    @Test
    void rewrittenDocumentsLeadToEachOtherInOneFolder() {
        assertThat(several.findings())
                .filteredOn(f -> f.severity() == Finding.Severity.ERROR)
                .isEmpty();
        Map<String, byte[]> files =
                Export.files(several, Form.REWRITTEN, a -> a.replace("old.example:8", "new.example:9"));
        assertThat(files.keySet()).containsExactly("a.wsdl", "types.wsdl", "t.xsd", "names.xsd");
        Contract read = again(files);
        assertThat(read.findings())
                .filteredOn(f -> f.severity() == Finding.Severity.ERROR)
                .isEmpty();
        assertThat(shape(read)).isEqualTo(shape(several));
        assertThat(read.port("Extra").orElseThrow().address()).contains("http://new.example:9/z");
    }

    @Test
    void oneWsdlHoldsAllSchemasAndWsdlsOfItsNamespace() {
        Map<String, byte[]> files = Export.files(several, Form.SINGLE, a -> a);
        assertThat(files).hasSize(1);
        Contract read = again(files);
        assertThat(read.findings())
                .filteredOn(f -> f.severity() == Finding.Severity.ERROR)
                .isEmpty();
        assertThat(shape(read)).isEqualTo(shape(several));
        assertThat(read.documents()).hasSize(1);
        assertThat(read.schemas().type(new javax.xml.namespace.QName("urn:t", "Short")))
                .isPresent();
    }

    @Test
    void documentsAsFetchedAreTheVeryBytes() {
        Map<String, byte[]> files = Export.files(several, Form.AS_FETCHED, a -> "http://never.example/");
        assertThat(files.get("a.wsdl")).isEqualTo(several.documents().get(0).bytes());
    }

    @Test
    void aFolderAZipAndASingleFileAreWritten(@TempDir Path folder) throws IOException {
        Map<String, byte[]> files = Export.files(several, Form.REWRITTEN, a -> a);
        assertThat(ExportFile.write(folder.resolve("out"), files)).hasSize(4).allMatch(Files::exists);
        Path zip = ExportFile.write(folder.resolve("out.zip"), files).get(0);
        try (ZipFile read = new ZipFile(zip.toFile())) {
            assertThat(read.stream().map(e -> e.getName())).containsExactlyElementsOf(files.keySet());
            assertThat(read.getInputStream(read.getEntry("t.xsd")).readAllBytes())
                    .isEqualTo(files.get("t.xsd"));
        }
        assertThat(ExportFile.write(folder.resolve("one.wsdl"), Export.files(several, Form.SINGLE, a -> a)))
                .containsExactly(folder.resolve("one.wsdl").toAbsolutePath());
    }

    private static dev.mockbell.schema.ElementDecl inside(dev.mockbell.schema.ElementDecl element) {
        var group =
                (dev.mockbell.schema.Particle.OfGroup) element.type().particle().orElseThrow();
        return ((dev.mockbell.schema.Particle.OfElement) group.parts().get(0)).element();
    }

    @Test
    void everyComponentKnowsItsPlace() {
        var root = several.schemas()
                .element(new javax.xml.namespace.QName("urn:t", "Root"))
                .orElseThrow();
        assertThat(root.place().orElseThrow().document()).isEqualTo("mem:/x/t.xsd");
        var inner = inside(root);
        assertThat(inner.place().orElseThrow().document()).isEqualTo("mem:/x/names.xsd");
        assertThat(inner.place().orElseThrow().line()).isPositive();
        Contract nested = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:element name='Root'><xs:complexType><xs:sequence>\n<xs:element name='a'><xs:complexType><xs:sequence>\n"
                                        + "<xs:element name='b' type='xs:int'/></xs:sequence>\n<xs:attribute name='c'/></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element>")));
        var a = inside(nested.schemas()
                .element(new javax.xml.namespace.QName("urn:t", "Root"))
                .orElseThrow());
        int line = a.place().orElseThrow().line();
        assertThat(inside(a).place().orElseThrow().line()).isEqualTo(line + 1);
        assertThat(a.type().attributes().get(0).place().orElseThrow().line()).isEqualTo(line + 2);
        Contract grouped = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:group name='G'><xs:sequence>\n<xs:element name='g' type='xs:int'/></xs:sequence></xs:group>"
                                        + "<xs:attributeGroup name='A'>\n<xs:attribute name='h'/></xs:attributeGroup>"
                                        + "<xs:complexType name='B'><xs:group ref='t:G'/><xs:attributeGroup ref='t:A'/></xs:complexType><xs:element name='Root' type='t:B'/>")));
        var b = grouped.schemas()
                .element(new javax.xml.namespace.QName("urn:t", "Root"))
                .orElseThrow();
        int first = inside(b).place().orElseThrow().line();
        assertThat(b.type().attributes().get(0).place().orElseThrow().line()).isEqualTo(first + 1);
        Operation o = several.port("Extra").orElseThrow().binding().operations().get(0);
        assertThat(List.of(
                        o.place(),
                        o.input().orElseThrow().place(),
                        o.input().orElseThrow().body().get(0).place(),
                        several.services().get(0).place(),
                        several.port("Extra").orElseThrow().binding().place()))
                .allSatisfy(p -> assertThat(p.line()).isPositive());
    }

    @Test
    void namespacesAndTheServiceGetTheNamesOfOnesChoiceWhereverTheyAreUsed() {
        Contract one = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:import namespace='urn:t' schemaLocation='t.xsd'/></xs:schema>"),
                "t.xsd",
                Contracts.schema(
                        "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='n' type='xs:int'/><xs:any namespace='urn:t urn:x' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>"));
        for (Form form : List.of(Form.REWRITTEN, Form.SINGLE)) {
            Contract read = again(Export.files(
                    one,
                    form,
                    Rewriting.of(
                            one,
                            new Readdress(
                                    java.util.Optional.of("huts.example"),
                                    java.util.Optional.of(81),
                                    java.util.Optional.of("v2"),
                                    java.util.Optional.of("https")),
                            List.of("urn:northfell:s", "urn:t=urn:northfell:t"),
                            "Huts")));
            assertThat(read.findings()).isEmpty();
            assertThat(read.services().get(0).name())
                    .isEqualTo(new javax.xml.namespace.QName("urn:northfell:s", "Huts"));
            assertThat(read.ports().get(0).address()).contains("https://huts.example:81/v2");
            assertThat(read.schemas().element(new javax.xml.namespace.QName("urn:northfell:t", "Root")))
                    .isPresent();
            String all = read.documents().stream().map(SourceDocument::text).reduce("", String::concat);
            assertThat(all).contains("namespace=\"urn:northfell:t urn:x\"").doesNotContain("\"urn:t\"");
        }
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> Rewriting.of(several, a -> a, List.of(), "Huts"))
                .hasMessageContaining("2 services");
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> Rewriting.of(one, a -> a, List.of("a b"), ""))
                .hasMessageContaining("no namespace");
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> Rewriting.of(one, a -> a, List.of(), "1 hut"))
                .hasMessageContaining("cannot be the name");
    }
}
