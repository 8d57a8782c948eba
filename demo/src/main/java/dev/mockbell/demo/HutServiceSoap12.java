package dev.mockbell.demo;

import com.sun.xml.ws.developer.SchemaValidation;
import jakarta.jws.WebService;
import jakarta.xml.ws.BindingType;
import jakarta.xml.ws.soap.SOAPBinding;
import java.time.Clock;

/** The SOAP 1.2 port; requests that break the schema are refused. */
@WebService(
        serviceName = "HutBooking",
        portName = "HutBookingSoap12",
        targetNamespace = "urn:northfell:hut-booking:service",
        endpointInterface = "dev.mockbell.demo.huts.HutBooking",
        wsdlLocation = "dev/mockbell/demo/hut-booking.wsdl")
@SchemaValidation
@BindingType(SOAPBinding.SOAP12HTTP_BINDING)
public final class HutServiceSoap12 extends HutService {
    HutServiceSoap12(HutRegister register, Clock clock) {
        super(register, clock);
    }
}
