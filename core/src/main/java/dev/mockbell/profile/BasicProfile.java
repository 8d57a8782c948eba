package dev.mockbell.profile;

import dev.mockbell.task.StopSignal;
import java.util.ArrayList;
import java.util.List;

/**
 * The requirements of the Basic Profile that are checked, in the order of their numbers. To add one, write its method in
 * the class of its kind and its line here.
 */
public final class BasicProfile {
    static final List<Rule> RULES = List.of(
            Rule.must("R2001", "Import schemas inside wsdl:types.", ImportRules::onlyWsdl),
            Rule.must("R2003", "Move the import into a schema inside wsdl:types.", ImportRules::schemaImportInSchema),
            Rule.must("R2004", "Import an XML Schema there.", ImportRules::schemaImportOfSchema),
            Rule.must("R2005", "Make the two namespaces the same.", ImportRules::sameNamespace),
            Rule.must("R2007", "Give the location of the document.", ImportRules::location),
            Rule.must("R2010", "Save the schema in UTF-8.", DocumentRules::schemaEncoding),
            Rule.must("R2022", "Move the imports to the top.", DocumentRules::importsFirst),
            Rule.must("R2023", "Move wsdl:types behind the imports.", DocumentRules::typesEarly),
            Rule.must("R2028", "Correct it by the schema of WSDL 1.1.", DocumentRules::wsdlIsValid),
            Rule.must("R2029", "Correct it by the schema of the SOAP binding.", DocumentRules::soapIsValid),
            Rule.must("R2101", "Import the WSDL that defines it.", ImportRules::importedReferences),
            Rule.must("R2105", "Give the schema a targetNamespace.", SchemaRules::targetNamespace),
            Rule.must("R2110", "Describe the list as a sequence of repeating elements.", SchemaRules::noEncodedArray),
            Rule.must("R2111", "Describe the list as a sequence of repeating elements.", SchemaRules::noArrayType),
            Rule.should("R2112", "Name it after what it holds.", SchemaRules::noArrayName),
            Rule.must("R2201", "List one part, or wrap the parts in one element.", BodyRules::onePartListed),
            Rule.must("R2203", "Give the part a type instead of an element.", BodyRules::rpcPartsHaveTypes),
            Rule.must("R2204", "Give the part an element instead of a type.", BodyRules::documentPartsHaveElements),
            Rule.must("R2205", "Give the part an element instead of a type.", BodyRules::otherPartsHaveElements),
            Rule.must("R2206", "Declare the element at the top of a schema.", MessageRules::globalElement),
            Rule.should("R2209", "Bind the part or remove it.", BodyRules::everyPartBound),
            Rule.must("R2210", "Define one part, or name the one meant in parts.", BodyRules::onePartDefined),
            Rule.must("R2303", "Use request-response or one-way operations.", MessageRules::inputFirst),
            Rule.must("R2304", "Give each operation a name of its own.", MessageRules::distinctNames),
            Rule.must("R2305", "List all parts of the output but one at most.", MessageRules::parameterOrder),
            Rule.must("R2306", "Keep one of the two.", MessageRules::typeOrElement),
            Rule.must("R2401", "Offer a SOAP binding as well.", BindingRules::soapOnly),
            Rule.must("R2701", "Give the transport attribute.", BindingRules::transport),
            Rule.must("R2702", "Offer a binding over HTTP as well.", BindingRules::httpTransport),
            Rule.must("R2705", "Use one style for all operations.", BindingRules::oneStyle),
            Rule.must("R2706", "Use literal.", BodyRules::literal),
            Rule.must("R2710", "Make the bodies differ, by wrapper elements of their own.", BindingRules::signatures),
            Rule.should("R2711", "Give each port an address of its own.", BindingRules::distinctAddresses),
            Rule.must("R2716", "Remove the namespace attribute.", BodyRules::noNamespaceInDocument),
            Rule.must("R2717", "Give an absolute URI in the namespace attribute.", BodyRules::namespaceInRpc),
            Rule.must("R2718", "Bind the operations of the port type, all and no other.", BindingRules::sameOperations),
            Rule.must("R2720", "Name one part in the part attribute.", BodyRules::partOfHeader),
            Rule.must("R2721", "Give the soap:fault the name of its fault.", BodyRules::nameOfFault),
            Rule.must("R2723", "Use literal.", BodyRules::literalFault),
            Rule.must("R2726", "Remove the namespace attribute.", BodyRules::noNamespaceBesideRpcBody),
            Rule.should("R2740", "Bind each fault with a soap:fault.", BindingRules::faultsBound),
            Rule.must("R2754", "Give both the same name.", BodyRules::sameNameOfFault),
            Rule.must("R4003", "Save the document in UTF-8.", DocumentRules::encoding),
            Rule.must("R4004", "Write version 1.0 in the XML declaration.", DocumentRules::xmlVersion));

    private BasicProfile() {}

    /** The breaches of all rules, rule by rule. */
    public static List<Breach> judge(Description description, StopSignal stop) {
        List<Breach> found = new ArrayList<>();
        for (Rule rule : RULES) {
            stop.check();
            Report report = new Report(rule);
            rule.check().accept(description, report);
            found.addAll(report.breaches());
        }
        return found;
    }
}
